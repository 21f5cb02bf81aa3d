<script setup lang="ts">
import type { Split } from '#core/manuscript/choices'
import type { ManuscriptFound } from '#shared/api'
import { count } from '~/utils/format'

// Where parts begin: at what was found in the document, or at a pattern of one's own.

const props = defineProps<{ found: Pick<ManuscriptFound, 'units' | 'levels' | 'patterns' | 'rules' | 'gaps'>, split: Split, refused: string | null }>()
const emit = defineEmits<{ choose: [split: Split] }>()

const own = 'pattern:'
const ownPattern = ref('')

function keyOf(split: Split): string {
  switch (split.by) {
    case 'heading': return `heading:${split.level}`
    case 'pattern': return props.found.patterns.some(({ pattern }) => pattern === split.pattern) ? `pattern:${split.pattern}` : own
    case 'blank': return 'blank'
    case 'even': return 'even'
    default: return split.by
  }
}

const items = computed(() => {
  const { found } = props
  return [
    ...(found.units === null ? [] : [{ title: `Every ${found.units.kind} (${found.units.count})`, value: 'unit' }]),
    ...found.levels.map(({ level, count: times }) => ({ title: level === 0 ? `Title style (${times})` : `Heading ${level} (${times})`, value: `heading:${level}` })),
    ...found.patterns.map(({ name, pattern, count: times }) => ({ title: `Lines like “${name}” (${times})`, value: `pattern:${pattern}` })),
    ...(found.rules === 0 ? [] : [{ title: `Rules and page breaks (${found.rules})`, value: 'rule' }]),
    ...(found.gaps === 0 ? [] : [{ title: `Empty lines (${count(found.gaps, 'gap')})`, value: 'blank' }]),
    { title: 'Evenly, by length', value: 'even' },
    { title: 'A pattern of your own', value: own },
    ...(found.units !== null || found.levels.some(({ level }) => level === 0) ? [] : [{ title: 'Nowhere: one part', value: 'heading:0' }]),
  ]
})

function choose(key: string): void {
  const argument = key.slice(key.indexOf(':') + 1)
  if (key === own) emit('choose', { by: 'pattern', pattern: ownPattern.value || '(?i)chapter ' })
  else if (key.startsWith('heading:')) emit('choose', { by: 'heading', level: Number(argument) })
  else if (key.startsWith('pattern:')) emit('choose', { by: 'pattern', pattern: argument })
  else if (key === 'blank') emit('choose', { by: 'blank', lines: 2 })
  else if (key === 'even') emit('choose', { by: 'even', minutes: 20 })
  else emit('choose', { by: key as 'rule' | 'unit' })
}

/** A whole number within the range; anything else changes nothing. */
function within(value: string, most: number): number | null {
  const number = Number(value)
  return Number.isInteger(number) && number >= 1 && number <= most ? number : null
}

function setLines(value: string): void {
  const lines = within(value, 100)
  if (lines !== null) emit('choose', { by: 'blank', lines })
}

function setMinutes(value: string): void {
  const minutes = within(value, 600)
  if (minutes !== null) emit('choose', { by: 'even', minutes })
}

function setPattern(value: string): void {
  ownPattern.value = value
  if (value !== '') emit('choose', { by: 'pattern', pattern: value })
}

const hint = computed(() => props.split.by === 'heading' && props.split.level > 0 ? 'and at every heading above it' : '')
</script>

<template>
  <v-select :model-value="keyOf(split)" :items="items" label="A part begins at" :hint="hint" persistent-hint @update:model-value="choose" />
  <v-text-field
    v-if="split.by === 'pattern' && keyOf(split) === own" :model-value="split.pattern" label="Pattern (regular expression)" class="mono" maxlength="500"
    hint="at the beginning of a passage, e.g. (?i)letter [ivx]+" persistent-hint :error-messages="refused ?? []" @update:model-value="setPattern"
  />
  <v-text-field v-if="split.by === 'blank'" :model-value="String(split.lines)" type="number" min="1" max="100" label="Empty lines, at least" @update:model-value="setLines" />
  <v-text-field v-if="split.by === 'even'" :model-value="String(split.minutes)" type="number" min="1" max="600" label="Minutes a part, about" @update:model-value="setMinutes" />
</template>
