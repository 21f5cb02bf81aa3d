<script setup lang="ts">
import { capsOf } from '~/keys/caps'
import type { CommandId } from '~/keys/tables'
import { useKeys } from '~/stores/keys'

// The keys of a command, as they are now.

const { id, all = false } = defineProps<{ readonly id: CommandId, readonly all?: boolean }>()
const keys = useKeys()
const shown = computed(() => keys.keysOf(id).slice(0, all ? undefined : 1))
</script>

<template>
  <span class="key-caps"><template v-for="(key, index) in shown" :key="key"><template v-if="index > 0"> or </template><kbd v-for="cap in capsOf(key)" :key="cap">{{ cap }}</kbd></template></span>
</template>

<style scoped>
.key-caps { white-space: nowrap; }
kbd { display: inline-block; min-width: 18px; margin-right: 2px; padding: 0 4px; border: 1px solid var(--line); border-radius: 3px; background: var(--sheet); color: var(--ink); font: 500 11.5px/1.5 var(--sans); text-align: center; }
</style>
