<script setup lang="ts">
import { mostEmptyLines, type FileSplit, type FileSplitBy } from '#core/delivery/file-split'
import type { PartKind } from '#core/script/script'
import { count } from '~/utils/format'

// Where files begin, how long they are about, and what no file passes.

const { split, levels, kinds } = defineProps<{
  readonly split: FileSplit
  /** It differs from the profile's. */
  readonly isOwn: boolean
  readonly marks: number
  /** Levels of headings in the script. */
  readonly levels: readonly number[]
  /** Of its parts; none where no script is known. */
  readonly kinds: ReadonlySet<PartKind>
  readonly locked: boolean
}>()
const emit = defineEmits<{ readonly choose: [split: FileSplit | null], readonly clear: [] }>()

const minuteMs = 60_000
const bytesInMb = 1_000_000
/** Lengths that are offered, min; any other can be typed. */
const offered = Array.from({ length: 11 }, (_, index) => String(10 + index * 5))

const partName = computed(() => kinds.size === 0 ? 'Chapter, slide or article' : kinds.has('slide') ? kinds.has('hint') ? 'Slide or hint' : 'Slide' : kinds.has('article') ? 'Article' : 'Chapter')
const items = computed(() => [
  { title: partName.value, value: 'part' },
  ...(kinds.has('hint') || kinds.size === 0 ? [{ title: 'Slide with its hints', value: 'slide' }] : []),
  ...levels.map(level => ({ title: `Heading ${level}`, value: `heading:${level}` })),
  { title: 'Place with empty lines in the source', value: 'emptyLines' },
  { title: 'Passage', value: 'passage' },
  { title: 'Sentence', value: 'sentence' },
  { title: 'The whole script', value: 'whole' },
])

const key = computed(() => split.where.by === 'heading' ? `heading:${split.where.level}` : split.where.by)

function chooseWhere(value: string): void {
  const [by, level] = value.split(':')
  const where: FileSplitBy = by === 'heading' ? { by, level: Number(level) } : by === 'emptyLines' ? { by, lines: 2 } : { by: by as 'part' }
  emit('choose', { ...split, where })
}

/** A number as it was typed, null for nothing; anything else changes nothing. */
function choose(value: string | null, least: number, most: number, change: (number: number | null) => Partial<FileSplit>): void {
  const text = (value ?? '').replace(/min|mb/iu, '').trim().replace(',', '.')
  const number = Number(text)
  if (text === '') emit('choose', { ...split, ...change(null) })
  else if (number >= least && number <= most) emit('choose', { ...split, ...change(number) })
}

const inMinutes = (ms: number | null): string | null => ms === null ? null : String(Math.round(ms / minuteMs * 10) / 10)
const toMs = (minutes: number | null): number | null => minutes === null ? null : Math.round(minutes * minuteMs)
</script>

<template>
  <fieldset class="division" :disabled="locked">
    <legend class="label">Division</legend>
    <v-select :model-value="key" :items="items" label="One file for each" :disabled="locked" @update:model-value="chooseWhere" />
    <v-text-field
      v-if="split.where.by === 'emptyLines'" :model-value="String(split.where.lines)" type="number" min="2" :max="mostEmptyLines" label="Empty lines, at least" :disabled="locked"
      @change="choose($event.target.value, 2, mostEmptyLines, lines => lines === null ? {} : { where: { by: 'emptyLines', lines } })"
    />
    <div class="lengths">
      <v-combobox
        :model-value="inMinutes(split.aboutMs)" :items="offered" label="About, min" placeholder="any" persistent-placeholder :disabled="locked"
        @update:model-value="choose($event, 0.2, 60_000, minutes => ({ aboutMs: toMs(minutes) }))"
      />
      <v-combobox
        :model-value="inMinutes(split.longestMs)" :items="offered" label="At most, min" placeholder="any" persistent-placeholder :disabled="locked"
        @update:model-value="choose($event, 0.2, 60_000, minutes => ({ longestMs: toMs(minutes) }))"
      />
      <v-text-field
        :model-value="split.largestBytes === null ? null : String(split.largestBytes / bytesInMb)" label="At most, MB" placeholder="any" persistent-placeholder inputmode="decimal" :disabled="locked"
        @change="choose($event.target.value, 0.1, 100_000, mb => ({ largestBytes: mb === null ? null : Math.round(mb * bytesInMb) }))"
      />
    </div>
    <p v-if="split.aboutMs !== null || split.longestMs !== null || split.largestBytes !== null" class="quiet small">Lengths cut between passages, else between sentences.</p>
    <p v-if="marks > 0" class="small">{{ count(marks, 'place') }} set by hand. <button type="button" class="plain-link" @click="$emit('clear')">Take {{ marks === 1 ? 'it' : 'them' }} away</button></p>
    <p v-if="isOwn" class="small"><button type="button" class="plain-link" @click="$emit('choose', null)">Divide as the profile does</button></p>
  </fieldset>
</template>

<style scoped>
.division { border: 0; margin: 0 0 18px; padding: 0; }
legend { padding: 0; margin-bottom: 10px; }
.lengths { display: grid; grid-template-columns: 1fr 1fr; gap: 12px 10px; margin: 12px 0 8px; }
.small { font-size: 14px; margin: 0 0 6px; }
</style>
