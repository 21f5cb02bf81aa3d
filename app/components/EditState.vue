<script setup lang="ts">
import { mdiRedoVariant, mdiUndoVariant } from '@mdi/js'
import { useDesk } from '~/stores/desk'
import { useHistory } from '~/stores/history'
import { usePage } from '~/stores/page'
import { editName } from '~/utils/words'

// Whether the text is saved, and what can be undone.

const emit = defineEmits<{ step: [direction: 'undo' | 'redo'] }>()
const pages = usePage()
const history = useHistory()
const desk = useDesk()

const text = computed(() => ({
  saved: desk.isAway ? 'The server does not answer. What you write is kept in this browser.' : 'Saved',
  saving: 'Saving …',
  offline: 'Not saved: the server does not answer. Your text is kept in this browser and sent again.',
  refused: `Not saved: ${pages.refusal} Your text is kept in this browser.`,
  conflict: 'Not saved: changed in another window',
})[pages.status])
const bad = computed(() => desk.isAway || pages.status !== 'saved' && pages.status !== 'saving')
const steps = computed(() => ([['undo', 'Undo', 'Ctrl Z', mdiUndoVariant], ['redo', 'Redo', 'Ctrl Y', mdiRedoVariant]] as const).map(([direction, word, key, icon]) => {
  const edit = history.next[direction]
  return { direction, icon, isOff: edit === null, title: edit === null ? `Nothing to ${word.toLowerCase()}` : `${word} ${editName(edit)} (${key})` }
}))
</script>

<template>
  <div class="edit-state">
    <p class="status" :class="{ bad }" role="status">{{ text }}</p>
    <v-btn
      v-for="step in steps" :key="step.direction" variant="text" size="small" :icon="step.icon" :title="step.title" :aria-label="step.title"
      :aria-disabled="step.isOff" :class="{ off: step.isOff }" @click="emit('step', step.direction)"
    />
  </div>
</template>

<style scoped>
.edit-state { display: flex; align-items: center; }
.status { flex: 1; margin: 0; font-size: 13px; color: var(--quiet); }
.status.bad { color: var(--vermilion); font-weight: 600; }
.off { opacity: .45; }
</style>
