<script setup lang="ts">
import { profileLines, soundLine } from '#core/delivery/profile'
import { profileNames, profiles, type ProfileName } from '#core/delivery/profiles'

// What the files are made as: the profiles there are, and what the chosen one asks for.

defineProps<{ readonly chosen: ProfileName, readonly locked: boolean }>()
defineEmits<{ readonly choose: [name: ProfileName] }>()

const items = profileNames.map(name => ({ title: profiles[name].name, value: name, props: { subtitle: soundLine(profiles[name]) } }))
</script>

<template>
  <div class="profiles">
    <p class="label">Profile</p>
    <v-select :model-value="chosen" :items="items" label="Files for" :disabled="locked" @update:model-value="$emit('choose', $event)" />
    <ul><li v-for="line in profileLines(profiles[chosen])" :key="line">{{ line }}</li></ul>
  </div>
</template>

<style scoped>
.profiles { margin: 0 0 18px; }
.label { margin: 0 0 10px; }
ul { list-style: none; margin: 6px 0 0; padding: 0; font-size: 14px; color: var(--quiet); }
</style>
