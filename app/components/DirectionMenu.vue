<script setup lang="ts">
import type { DirectionKind } from '#core/script/directions'
import type { PlacedDirection } from '~/editor/commands'
import { directionWords } from '~/editor/signs'
import { useKeys } from '~/stores/keys'
import { addedKinds, directionHints, type AddedKind } from '~/utils/directions'
import { directionNames } from '~/utils/words'

// What can be done with directions at the caret: by letter, arrow keys or mouse. What cannot be done stays, and says why.

const props = defineProps<{ here: readonly PlacedDirection[], reasons: Readonly<Partial<Record<DirectionKind, string>>> }>()
const emit = defineEmits<{ pick: [kind: AddedKind], change: [placed: PlacedDirection], remove: [placed: PlacedDirection], move: [placed: PlacedDirection, by: -1 | 1], close: [] }>()

const keys = useKeys()
const list = ref<HTMLElement | null>(null)
const explained = ref<string | null>(null)
/** Something was chosen: the focus that leaves with the menu closes nothing. */
let chosen = false
let moving = false
onMounted(() => items()[0]?.focus())

function items(): HTMLElement[] {
  return [...list.value!.querySelectorAll<HTMLElement>('[role="menuitem"]')]
}

function choose(kind: AddedKind): void {
  const why = props.reasons[kind]
  if (why === undefined) {
    chosen = true
    emit('pick', kind)
  } else {
    explained.value = `${directionNames[kind]}: ${why}`
  }
}

function change(placed: PlacedDirection): void {
  chosen = true
  emit('change', placed)
}

/** The list follows the direction to its new place; the focus stays on it. */
async function move(at: number, by: -1 | 1): Promise<void> {
  const placed = props.here[at]!
  moving = true
  emit('move', placed, by)
  await nextTick()
  items()[Math.max(0, props.here.findIndex(each => each.direction.id === placed.direction.id))]?.focus()
  moving = false
}

function key(event: KeyboardEvent): void {
  const all = items()
  const at = all.indexOf(document.activeElement as HTMLElement)
  const kind = keys.match('directions', event) as AddedKind | null
  if (event.key === 'Escape' || event.key === 'Tab') emit('close')
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') all[(at + (event.key === 'ArrowDown' ? 1 : -1) + all.length) % all.length]!.focus()
  else if (event.key === 'Home' || event.key === 'End') all.at(event.key === 'Home' ? 0 : -1)!.focus()
  else if ((event.key === 'ArrowLeft' || event.key === 'ArrowRight') && at >= 0 && at < props.here.length) void move(at, event.key === 'ArrowLeft' ? -1 : 1)
  else if (event.key === 'Delete' && at >= 0 && at < props.here.length) emit('remove', props.here[at]!)
  else if (kind !== null) choose(kind)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function leave(event: FocusEvent): void {
  if (!chosen && !moving && !(event.relatedTarget instanceof Node && list.value?.contains(event.relatedTarget) === true)) emit('close')
}
</script>

<template>
  <div ref="list" class="menu" role="menu" aria-label="Directions" @keydown="key" @focusout="leave">
    <template v-if="here.length > 0">
      <p class="head">Here · <kbd>Enter</kbd> changes, <kbd>Del</kbd> removes, <kbd>←</kbd> <kbd>→</kbd> move it by a word</p>
      <div v-for="placed in here" :key="placed.direction.id" class="item" role="menuitem" tabindex="-1" @click="change(placed)" @keydown.enter.prevent.stop="change(placed)">
        <span>{{ directionWords(placed.direction) }}</span>
      </div>
    </template>
    <p class="head">Add</p>
    <div
      v-for="kind in addedKinds" :key="kind" class="item" role="menuitem" tabindex="-1" :aria-disabled="reasons[kind] !== undefined"
      :title="reasons[kind]"
      @click="choose(kind)" @keydown.enter.prevent.stop="choose(kind)" @focus="explained = reasons[kind] === undefined ? null : `${directionNames[kind]}: ${reasons[kind]}`"
    >
      <KeyCaps :id="kind" /><span>{{ directionNames[kind] }}</span><span class="hint">{{ directionHints[kind] }}<span v-if="reasons[kind] !== undefined" class="sr-only">. Not here: {{ reasons[kind] }}</span></span>
    </div>
    <p class="why" role="status">{{ explained }}</p>
  </div>
</template>

<style scoped>
.menu { padding: 6px 0; font-size: 14.5px; }
.head { margin: 2px 14px; font-size: 12.5px; color: var(--quiet); }
.item { display: grid; grid-template-columns: 26px auto 1fr; align-items: baseline; gap: 8px; padding: 3px 14px; cursor: pointer; }
.item:has(> span:only-child) { display: block; font-weight: 600; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.item:hover, .item:focus { background: var(--lit); outline: none; }
.item[aria-disabled='true'] { color: var(--quiet); cursor: default; }
.item[aria-disabled='true'] > span:nth-child(2) { text-decoration: line-through; text-decoration-thickness: 1px; }
.hint { color: var(--quiet); font-size: 13px; text-align: right; }
.why { margin: 4px 14px 0; font-size: 13px; color: var(--vermilion); line-height: 1.35; }
.why:empty { display: none; }
kbd { font: 500 11.5px var(--sans); border: 1px solid var(--line); border-radius: 3px; padding: 0 4px; background: var(--paper); color: var(--ink); text-align: center; }
</style>
