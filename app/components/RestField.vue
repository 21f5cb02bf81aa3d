<script setup lang="ts">
import { maximumRestMs } from '#core/style/house-style'

// A rest in ms. What is typed stays while the rest of the page is loaded again, and counts when the field is left.

const props = defineProps<{ ms: number, label: string }>()
const emit = defineEmits<{ change: [ms: number] }>()
const draft = ref<string | null>(null)

function finish(): void {
  const text = draft.value?.trim() ?? ''
  draft.value = null
  const ms = Math.round(Number(text))
  if (text !== '' && ms >= 0 && ms <= maximumRestMs && ms !== props.ms) emit('change', ms)
}
</script>

<template>
  <input
    type="number" min="0" :max="maximumRestMs" step="50" :value="draft ?? ms" :aria-label="label"
    @input="draft = ($event.target as HTMLInputElement).value" @change="finish" @keydown.esc="draft = null"
  >
</template>

<style scoped>
input { width: 60px; font: inherit; font-variant-numeric: tabular-nums; text-align: right; color: var(--ink); background: var(--sheet); border: 1px solid var(--line); border-radius: 3px; padding: 1px 3px; }
</style>
