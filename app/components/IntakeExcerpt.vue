<script setup lang="ts">
import type { Excerpt } from '#core/manuscript/choices'
import type { ManuscriptFound } from '#shared/api'

// How much of a document is taken, to try things cheaply.

const props = defineProps<{ found: ManuscriptFound, excerpt: Excerpt }>()
const emit = defineEmits<{ choose: [excerpt: Excerpt] }>()

type Kind = 'all' | 'sentences' | 'parts' | 'pages' | 'eachSentences' | 'eachWords'

const kind = computed<Kind>(() => {
  const { sentences, parts, pages, each } = props.excerpt
  if (each !== undefined) return 'words' in each ? 'eachWords' : 'eachSentences'
  return sentences !== undefined ? 'sentences' : parts !== undefined ? 'parts' : pages !== undefined ? 'pages' : 'all'
})

const items = computed((): { title: string, value: Kind }[] => [
  { title: 'All of it', value: 'all' }, { title: 'The first sentences', value: 'sentences' }, { title: 'The first parts', value: 'parts' },
  ...(props.found.pages === null ? [] : [{ title: 'Some pages', value: 'pages' as const }]),
  { title: 'First sentences of each part', value: 'eachSentences' }, { title: 'First words of each part', value: 'eachWords' },
])

const number = computed(() => {
  const { sentences, parts, each } = props.excerpt
  return sentences ?? parts ?? (each === undefined ? 1 : 'words' in each ? each.words : each.sentences)
})

function excerptOf(chosen: Kind, value: number): Excerpt {
  switch (chosen) {
    case 'all': return {}
    case 'sentences': return { sentences: value }
    case 'parts': return { parts: value }
    case 'pages': return { pages: props.found.pages! }
    case 'eachSentences': return { each: { sentences: value } }
    case 'eachWords': return { each: { words: value } }
  }
}

function setNumber(given: string): void {
  const value = Number(given)
  if (Number.isInteger(value) && value > 0 && value <= 1_000_000) emit('choose', excerptOf(kind.value, value))
}

const usual: Readonly<Record<Kind, number>> = { all: 1, sentences: 20, parts: 1, pages: 1, eachSentences: 3, eachWords: 60 }
const labels: Readonly<Partial<Record<Kind, string>>> = { sentences: 'Sentences', parts: 'Parts', eachSentences: 'Sentences of each', eachWords: 'Words of each' }
</script>

<template>
  <v-select :model-value="kind" :items="items" label="Take" @update:model-value="emit('choose', excerptOf($event, usual[$event as Kind]))" />
  <v-text-field v-if="labels[kind] !== undefined" :model-value="String(number)" type="number" min="1" :label="labels[kind] ?? ''" @update:model-value="setNumber" />
  <div v-if="excerpt.pages !== undefined" class="pages">
    <v-text-field :model-value="excerpt.pages[0]" label="From page" @change="emit('choose', { pages: [($event.target as HTMLInputElement).value.trim() || found.pages![0], excerpt.pages[1]] })" />
    <v-text-field :model-value="excerpt.pages[1]" label="to" @change="emit('choose', { pages: [excerpt.pages[0], ($event.target as HTMLInputElement).value.trim() || found.pages![1]] })" />
  </div>
</template>

<style scoped>
.pages { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
</style>
