<script setup lang="ts">
import { allCommands, type CommandId } from '~/keys/tables'
import { useKeys } from '~/stores/keys'

// The keys that one needs most in a view; the others are in the help.

const { ids } = defineProps<{ readonly ids: readonly CommandId[] }>()
const keys = useKeys()
const shown = computed(() => ids.filter(id => keys.keysOf(id).length > 0))
</script>

<template>
  <div class="key-card">
    <p v-for="id in shown" :key="id"><KeyCaps :id="id" /> {{ allCommands.get(id)!.title.toLowerCase() }}</p>
    <p><KeyCaps id="commands" /> all commands · <KeyCaps id="help" /> help</p>
  </div>
</template>

<style scoped>
p { margin: 0; font-size: 13px; line-height: 1.9; color: var(--quiet); }
</style>
