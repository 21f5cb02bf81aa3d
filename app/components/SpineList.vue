<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiCheckboxBlankOutline, mdiCheckboxMarked, mdiCheckboxMultipleOutline, mdiContentCut, mdiDotsVertical, mdiEyeOff, mdiEye, mdiPencil, mdiTableMergeCells } from '@mdi/js'
import { VueDraggable } from 'vue-draggable-plus'
import { clock } from '#core/estimate/clock'
import type { PartSummary } from '#shared/api'
import type { Operation } from '#shared/operations'
import { count, spokenLength } from '~/utils/format'
import { useKeys } from '~/stores/keys'
import { useNotices } from '~/stores/notices'
import { stateNames } from '~/utils/words'

// All parts of the edition: chosen, filtered, renamed, moved, left out.

const props = defineProps<{ parts: readonly PartSummary[], current: string | null, totalMs: number }>()
const emit = defineEmits<{
  choose: [partId: string]
  rename: [part: PartSummary, label: string]
  include: [part: PartSummary, included: boolean]
  move: [part: PartSummary, afterPartId: string | null]
  /** Puts the next part's text behind this one's. */
  merge: [part: PartSummary]
  /** Several changes as one edit. */
  operate: [operations: Operation[]]
  divide: []
}>()

const keys = useKeys()
const notices = useNotices()
const finder = useTemplateRef<HTMLInputElement>('finder')
const filter = ref('')
const renaming = ref<string | null>(null)
const nameFields = useTemplateRef<HTMLInputElement[]>('nameFields')
const label = ref('')
const order = ref<PartSummary[]>([])
watch(() => props.parts, parts => { order.value = [...parts] }, { immediate: true })

const shown = computed(() => {
  const wanted = filter.value.trim().toLowerCase()
  return wanted === '' ? order.value : order.value.filter(part => part.label.toLowerCase().includes(wanted))
})
/** Slides and articles are what they are; only running text is divided. */
const divisible = computed(() => props.parts.every(part => part.kind === 'chapter' || part.kind === 'frontMatter' || part.kind === 'backMatter'))
const longestMs = computed(() => Math.max(1, ...props.parts.map(part => part.durationMs)))
const numbers = computed(() => {
  let number = 0
  return new Map(order.value.map(part => [part.id, part.included ? String(number += 1) : '–']))
})
const words = computed(() => props.parts.filter(part => part.included).reduce((sum, part) => sum + part.words, 0))

const several = ref(false)
const chosen = ref<ReadonlySet<string>>(new Set())
const renamingSeveral = ref(false)
let lastChosen: string | null = null
watch(() => props.parts, parts => {
  const known = new Set(parts.map(part => part.id))
  chosen.value = new Set([...chosen.value].filter(id => known.has(id)))
})
watch(several, () => { chosen.value = new Set() })

/** Chooses one part more or less, or with Shift all from the last one on. */
function toggle(part: PartSummary, event: MouseEvent): void {
  const from = shown.value.findIndex(other => other.id === lastChosen)
  const to = shown.value.indexOf(part)
  const range = event.shiftKey && from >= 0 ? shown.value.slice(Math.min(from, to), Math.max(from, to) + 1) : [part]
  const take = !chosen.value.has(part.id)
  const next = new Set(chosen.value)
  for (const { id } of range) {
    if (take) next.add(id)
    else next.delete(id)
  }
  chosen.value = next
  lastChosen = part.id
}

function startRename(part: PartSummary): void {
  renaming.value = part.id
  label.value = part.label
  // The menu gives the focus back to its button when it closes, which is after the next tick.
  setTimeout(() => nameFields.value?.[0]?.select(), 60)
}

function finishRename(part: PartSummary): void {
  if (renaming.value !== part.id) return
  renaming.value = null
  const text = label.value.trim()
  if (text !== '' && text !== part.label) emit('rename', part, text)
}

function step(part: PartSummary, by: -1 | 1): void {
  const index = order.value.findIndex(other => other.id === part.id)
  const target = index + by
  if (target < 0 || target >= order.value.length) return
  emit('move', part, order.value[by === 1 ? target : target - 1]?.id ?? null)
}

/** A command for the part that is open. */
const ofCurrent = (act: (part: PartSummary) => unknown) => () => {
  const part = props.parts.find(each => each.id === props.current)
  if (part !== undefined) act(part)
}
const isLast = (part: PartSummary): boolean => order.value.at(-1)?.id === part.id

useCommands('spine', {
  renamePart: ofCurrent(startRename),
  findPart: () => finder.value?.focus(),
  includePart: ofCurrent(part => emit('include', part, !part.included)),
  mergePart: ofCurrent(part => isLast(part) ? notices.show('No part comes after this one.') : emit('merge', part)),
  partUp: ofCurrent(part => step(part, -1)),
  partDown: ofCurrent(part => step(part, 1)),
  chooseSeveral: () => { several.value = true },
})

function dropped({ newIndex }: { newIndex?: number | undefined }): void {
  const part = newIndex === undefined ? undefined : order.value[newIndex]
  if (part !== undefined) emit('move', part, order.value[newIndex! - 1]?.id ?? null)
}
</script>

<template>
  <nav class="spine" aria-label="Parts" data-region="spine">
    <div class="top">
      <input ref="finder" v-model="filter" class="find" type="search" placeholder="Find a part" aria-label="Find a part">
      <v-menu>
        <template #activator="{ props: menu }"><IconButton v-bind="menu" size="x-small" :icon="mdiDotsVertical" name="Change several parts" /></template>
        <v-list density="compact">
          <v-list-item :prepend-icon="mdiCheckboxMultipleOutline" title="Choose several …" subtitle="leave out, merge, move, rename" @click="several = true" />
          <v-list-item v-if="divisible" :prepend-icon="mdiContentCut" title="Divide anew …" subtitle="by heading, pattern, length" @click="emit('divide')" />
        </v-list>
      </v-menu>
    </div>
    <SpineSeveral
      v-if="several" :parts="parts" :chosen="chosen" @all="chosen = new Set(shown.map(part => part.id))" @none="chosen = new Set()" @close="several = false"
      @operate="emit('operate', $event)" @rename="renamingSeveral = true"
    />
    <RenameDialog v-model="renamingSeveral" :parts="parts.filter(part => chosen.has(part.id))" @operate="emit('operate', $event)" />
    <VueDraggable v-model="order" tag="ol" :disabled="filter !== '' || several" :animation="120" filter="input, .part-menu" :prevent-on-filter="false" :force-fallback="true" :fallback-tolerance="5" @end="dropped">
      <li v-for="part in shown" :key="part.id" :class="{ current: part.id === current, out: !part.included, chosen: chosen.has(part.id) }">
        <form v-if="renaming === part.id" class="rename" @submit.prevent="finishRename(part)">
          <input ref="nameFields" v-model="label" :aria-label="`New name of ${part.label}`" maxlength="300" @blur="finishRename(part)" @keydown.esc="renaming = null">
        </form>
        <button
          v-else class="part" type="button" :aria-current="part.id === current ? 'true' : undefined"
          :aria-pressed="several ? chosen.has(part.id) : undefined"
          @click="several ? toggle(part, $event) : emit('choose', part.id)" @dblclick="several || startRename(part)" @keydown="several || keys.matches('renamePart', $event) && startRename(part)"
        >
          <span v-if="several" class="part-number"><v-icon :icon="chosen.has(part.id) ? mdiCheckboxMarked : mdiCheckboxBlankOutline" size="17" /></span>
          <span v-else class="part-number">{{ numbers.get(part.id) }}</span>
          <span class="part-label" :title="part.label">{{ part.label }}</span>
          <span class="part-time">{{ part.included ? `${part.exact ? '' : '~ '}${clock(part.durationMs)}` : 'left out' }}</span>
          <span class="part-bar">
            <SpineBar :ms="part.durationMs" :longest-ms="longestMs" :state="part.state" :share="1 - part.missing / Math.max(1, part.utterances)" :included="part.included" />
          </span>
          <span class="sr-only">, {{ stateNames[part.state] }}</span>
        </button>
        <v-menu>
          <template #activator="{ props: menu }">
            <IconButton v-bind="menu" class="part-menu" size="x-small" :icon="mdiDotsVertical" :name="`Change ${part.label}`" />
          </template>
          <v-list density="compact">
            <v-list-item :prepend-icon="mdiPencil" title="Rename" :subtitle="keys.keysOf('renamePart').join(' ')" @click="startRename(part)" />
            <v-list-item :prepend-icon="part.included ? mdiEyeOff : mdiEye" :title="part.included ? 'Leave out' : 'Take in again'" @click="emit('include', part, !part.included)" />
            <v-list-item :prepend-icon="mdiTableMergeCells" title="Merge with the next" :disabled="filter !== '' || isLast(part)" @click="emit('merge', part)" />
            <v-list-item :prepend-icon="mdiArrowUp" title="Move up" :disabled="filter !== '' || order[0]?.id === part.id" @click="step(part, -1)" />
            <v-list-item :prepend-icon="mdiArrowDown" title="Move down" :disabled="filter !== '' || isLast(part)" @click="step(part, 1)" />
          </v-list>
        </v-menu>
      </li>
    </VueDraggable>
    <p v-if="shown.length === 0" class="quiet none">No part has “{{ filter }}” in its name.</p>
    <p class="sum quiet">{{ count(parts.length, 'part') }} · {{ spokenLength(totalMs) }} · {{ count(words, 'word') }}<br>the longest part {{ clock(longestMs) }}</p>
  </nav>
</template>

<style scoped>
.spine { padding: 10px 0 20px; }
.top { display: flex; align-items: baseline; margin: 4px 4px 10px 14px; }
.find { flex: 1 1 auto; min-width: 0; margin: 0; padding: 6px 0; border: 0; border-bottom: 1px solid var(--line); background: none; color: var(--ink); font: inherit; font-size: 14.5px; }
.find::placeholder { color: var(--quiet); opacity: 1; }
ol { list-style: none; margin: 0; padding: 0; }
li { position: relative; border-left: 3px solid transparent; }
li.current { background: var(--sheet); border-left-color: var(--verdigris); }
li.chosen { background: var(--lit); }
li.current .part-label { font-weight: 600; }
.part { display: grid; grid-template-columns: 24px 1fr auto; gap: 3px 6px; width: 100%; padding: 7px 26px 8px 8px; border: 0; background: none; color: inherit; font: inherit; font-size: 14.5px; text-align: left; cursor: pointer; align-items: baseline; }
.part:hover { background: color-mix(in srgb, var(--sheet) 55%, transparent); }
.part-number { text-align: right; color: var(--quiet); font-size: 13px; }
.part-label { display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; overflow: hidden; line-height: 1.3; }
.part-time { color: var(--quiet); font-size: 13px; font-variant-numeric: tabular-nums; white-space: nowrap; }
.part-bar { grid-column: 2 / -1; }
.out .part-label { text-decoration: line-through; color: var(--quiet); }
.part-menu { position: absolute; right: 2px; top: 3px; color: var(--quiet); }
.rename { padding: 6px 10px 6px 38px; }
.rename input { width: 100%; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--verdigris); border-radius: 3px; padding: 3px 6px; }
.sum { margin: 14px 14px 0 38px; font-size: 13px; line-height: 1.5; }
.none { margin: 8px 14px; font-size: 14px; }
</style>
