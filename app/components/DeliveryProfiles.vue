<script setup lang="ts">
import { profileLines } from '#core/delivery/profile'
import { profileNames, profiles, type ProfileName } from '#core/delivery/profiles'

// What the files are made as: the profiles there are, and what the chosen one asks for.

defineProps<{ readonly chosen: ProfileName, readonly locked: boolean }>()
defineEmits<{ readonly choose: [name: ProfileName] }>()
</script>

<template>
  <fieldset class="profiles" :disabled="locked">
    <legend class="label">Profile</legend>
    <label v-for="name in profileNames" :key="name" :class="{ chosen: name === chosen }">
      <input type="radio" name="profile" :value="name" :checked="name === chosen" @change="$emit('choose', name)">
      <span><b>{{ profiles[name].name }}</b><span v-if="name === chosen" class="lines">{{ profileLines(profiles[name]).join(' · ') }}</span></span>
    </label>
  </fieldset>
</template>

<style scoped>
.profiles { border: 0; margin: 0 -10px 18px; padding: 0; }
legend { margin-left: 10px; padding: 0; }
label { display: flex; gap: 9px; align-items: baseline; padding: 6px 10px; cursor: pointer; border-radius: 4px; }
label.chosen { background: var(--sheet); }
label b { font-weight: 500; }
label.chosen b { font-weight: 650; }
.lines { display: block; font-size: 14px; color: var(--quiet); }
input { accent-color: var(--verdigris); }
</style>
