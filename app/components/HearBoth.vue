<script setup lang="ts">
import { mdiPlay } from '@mdi/js'

// What a form would change is heard with it and without it, one click apart: the words alone, or their sentence.

export type HeardScope = 'words' | 'sentence'

const { scopes, disabled = false, empty = false, without = 'Without' } = defineProps<{
  readonly scopes: readonly HeardScope[]
  /** It cannot be heard as it is written in the form. */
  readonly disabled?: boolean
  /** There are no words yet. */
  readonly empty?: boolean
  readonly without?: string
}>()
const emit = defineEmits<{ hear: [isWith: boolean, scope: HeardScope] }>()
const wanted = ref<HeardScope>('words')
const scope = computed(() => scopes.includes(wanted.value) ? wanted.value : scopes[0]!)
const last = ref<boolean | null>(null)

function hear(isWith: boolean): void {
  last.value = isWith
  emit('hear', isWith, scope.value)
}
defineExpose({ hear })
</script>

<template>
  <div class="hear-both" role="group" aria-label="Hear">
    <v-btn size="small" :prepend-icon="mdiPlay" :disabled="disabled || empty" :aria-pressed="last === true" @click="hear(true)">Hear it</v-btn>
    <v-btn size="small" :prepend-icon="mdiPlay" :disabled="empty" :aria-pressed="last === false" @click="hear(false)">{{ without }}</v-btn>
    <select v-if="scopes.length > 1" v-model="wanted" aria-label="What is heard"><option value="words">the words</option><option value="sentence">the sentence</option></select>
  </div>
</template>

<style scoped>
.hear-both { display: flex; flex-wrap: wrap; align-items: center; gap: 6px; }
.v-btn[aria-pressed='true'] { background: var(--lit); }
select { font: inherit; font-size: 13px; height: 24px; max-width: 112px; color: var(--ink); background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; padding: 0 2px; }
</style>
