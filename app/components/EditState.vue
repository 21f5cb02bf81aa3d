<script setup lang="ts">
import { mdiRedoVariant, mdiUndoVariant } from '@mdi/js'
import { useDesk } from '~/stores/desk'
import { useHistory } from '~/stores/history'
import { useKeys } from '~/stores/keys'
import { usePage } from '~/stores/page'
import { editName } from '~/utils/words'

// Whether the text is saved, and what can be undone.

const emit = defineEmits<{ step: [direction: 'undo' | 'redo'] }>()
const pages = usePage()
const history = useHistory()
const desk = useDesk()
const keys = useKeys()

const text = computed(() => ({
  saved: desk.isAway ? 'The server does not answer. What you write is kept in this browser.' : 'Saved',
  saving: 'Saving …',
  offline: 'Not saved: the server does not answer. Your text is kept in this browser and sent again.',
  refused: `Not saved: ${pages.refusal} Your text is kept in this browser.`,
  conflict: 'Not saved: changed in another window',
})[pages.status])
const bad = computed(() => desk.isAway || pages.status !== 'saved' && pages.status !== 'saving')
const steps = computed(() => ([['undo', 'Undo', mdiUndoVariant], ['redo', 'Redo', mdiRedoVariant]] as const).map(([direction, word, icon]) => {
  const edit = history.next[direction]
  return { direction, icon, isOff: edit === null, title: edit === null ? `Nothing to ${word.toLowerCase()}` : keys.withKey(`${word} ${editName(edit)}`, direction) }
}))
</script>

<template>
  <div class="edit-state">
    <p class="status" :class="{ bad }" role="status">{{ text }}</p>
    <IconButton
      v-for="step in steps" :key="step.direction" :icon="step.icon" :name="step.title"
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
