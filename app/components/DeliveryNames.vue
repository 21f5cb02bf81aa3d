<script setup lang="ts">
import { leastLongest, mostDigits, mostFirstNumber, mostNameBytes, namePatternProblem, nameFields, type NameField, type NameRules } from '#core/delivery/naming'

// How files are named: a pattern whose fields are put in by buttons, and how they are written. The example is a name of the run sheet.

const { pattern, rules, example } = defineProps<{
  readonly pattern: string
  readonly rules: NameRules
  /** A name that is made so; empty where there is no file. */
  readonly example: string
  /** They differ from the profile's. */
  readonly isOwn: boolean
  readonly locked: boolean
}>()
const emit = defineEmits<{ readonly pattern: [pattern: string], readonly rules: [changed: Partial<NameRules>], readonly drop: [] }>()

const fieldNames: Readonly<Record<NameField, string>> = {
  number: 'Number', within: 'Number in the part', title: 'Title', part: 'Part', slide: 'Slide', production: 'Production', author: 'Author', language: 'Language', voice: 'Voice', role: 'Role', date: 'Date',
}

/** As it is typed; null while it is the saved one. */
const typed = ref<string | null>(null)
const shown = computed(() => typed.value ?? pattern)
const problem = computed(() => namePatternProblem(shown.value.trim()))
// What was typed while an earlier pattern was saved stays.
watch(() => pattern, saved => { if (typed.value?.trim() === saved) typed.value = null })

function save(): void {
  const wanted = shown.value.trim()
  if (problem.value === null && wanted !== pattern) emit('pattern', wanted)
}

const field = ref<{ $el: HTMLElement } | null>(null)

/** Puts a field where the caret is, else at the end with a hyphen before it. */
function insert(name: NameField): void {
  const input = field.value?.$el.querySelector('input') ?? null
  const at = input?.selectionStart ?? null
  const text = shown.value
  const written = `{${name}}`
  const isAtEnd = at === null || at === text.length
  typed.value = isAtEnd ? `${text}${/[\w}]$/u.test(text) ? '-' : ''}${written}` : text.slice(0, at) + written + text.slice(input?.selectionEnd ?? at)
  save()
}

const letters = [{ title: 'a–z, figures, hyphens', value: 'ascii' }, { title: 'Letters as written', value: 'written' }] as const
const counts = [{ title: 'of files, counted', value: 'files' }, { title: 'of their slides or parts', value: 'parts' }] as const
const digits = [{ title: 'auto', value: null }, ...Array.from({ length: mostDigits }, (_, index) => ({ title: `${index + 1}: ${'7'.padStart(index + 1, '0')}`, value: index + 1 }))]

/** A whole number as it was typed; anything else changes nothing. */
function choose(name: 'firstNumber' | 'longest', text: string, least: number, most: number): void {
  const number = Number(text)
  if (text.trim() !== '' && Number.isInteger(number) && number >= least && number <= most) emit('rules', { [name]: number })
}
</script>

<template>
  <fieldset class="names" :disabled="locked">
    <legend class="label">Names</legend>
    <v-text-field
      ref="field" :model-value="shown" label="Pattern" class="mono" :disabled="locked" :error-messages="problem ?? []" :hint="example" persistent-hint
      @update:model-value="typed = $event" @change="save"
    />
    <ul class="fields" aria-label="Fields of names">
      <li v-for="name in nameFields" :key="name"><button type="button" :disabled="locked || (name === 'number' && shown.includes('{number}'))" @mousedown.prevent @click="insert(name)">{{ fieldNames[name] }}</button></li>
    </ul>
    <div class="rules">
      <v-select :model-value="rules.letters" :items="letters" label="Letters" class="wide" :disabled="locked" @update:model-value="$emit('rules', { letters: $event })" />
      <v-select :model-value="rules.counts ?? 'files'" :items="counts" label="Numbers" class="wide" :disabled="locked" @update:model-value="$emit('rules', { counts: $event })" />
      <v-text-field :model-value="rules.firstNumber" type="number" min="0" :max="mostFirstNumber" label="First number" :disabled="locked" @change="choose('firstNumber', $event.target.value, 0, mostFirstNumber)" />
      <v-select :model-value="rules.digits" :items="digits" label="Figures" :disabled="locked" @update:model-value="$emit('rules', { digits: $event })" />
      <v-text-field :model-value="rules.longest" type="number" :min="leastLongest" :max="mostNameBytes" label="Letters at most" :disabled="locked" @change="choose('longest', $event.target.value, leastLongest, mostNameBytes)" />
    </div>
    <p v-if="isOwn" class="small"><button type="button" class="plain-link" :disabled="locked" @click="$emit('drop')">Name as the profile does</button></p>
  </fieldset>
</template>

<style scoped>
.names { border: 0; margin: 0 0 18px; padding: 0; }
legend { padding: 0; margin-bottom: 10px; }
.fields { list-style: none; margin: 8px 0 14px; padding: 0; display: flex; flex-wrap: wrap; gap: 6px; }
.fields button { border: 1px solid var(--line); border-radius: 4px; background: var(--sheet); padding: 2px 8px; font-size: 14px; cursor: pointer; }
.fields button:disabled { color: var(--quiet); background: none; cursor: default; }
.rules { display: grid; grid-template-columns: 1fr 1fr; gap: 12px 10px; }
.wide { grid-column: 1 / -1; }
.small { font-size: 14px; margin: 8px 0 0; }
</style>
