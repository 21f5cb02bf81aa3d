<script setup lang="ts">
import { Editor, EditorContent } from '@tiptap/vue-3'
import { Extension } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import type { Transaction } from '@tiptap/pm/state'
import { useDebounceFn } from '@vueuse/core'
import { supportOf, type Surroundings } from '#core/score/support'
import { toneOf } from '#core/score/tone'
import { sliceContent, writtenText, type Content } from '#core/script/content'
import { directionRules, type Direction, type DirectionKind, type DirectionValue } from '#core/script/directions'
import { capabilitiesOf, type Casting, type Engines } from '#core/score/cast'
import type { HouseStyle } from '#core/style/house-style'
import type { Page, PageUtterance, RoleView, SoundView } from '#shared/api'
import { addDirection, changeDirection, currentPassage, directionsAt, directionsIn, insertContent, moveDirection, newId, obstacle, removeDirection, stretches, type PlacedDirection } from '~/editor/commands'
import { fromWritten, takeOver, toContent, toDocument, toWritten } from '~/editor/convert'
import { FixedPassages } from '~/editor/fixed-passages'
import { HeldTyping } from '~/editor/held-typing'
import { editedKey, lightKey, OverlayExtension, overlayKey, type Light, type Overlay, type Stretch } from '~/editor/overlay'
import type { DirectionCard } from '~/composables/useDirectionCards'
import { nameRoles } from '~/editor/signs'
import { DirectionMark, PartDocument, PassageNode, PointNode, WrittenText } from '~/editor/schema'
import type { HeardScope } from '~/components/HearBoth.vue'
import { addedKinds, quickValues, type AddedKind } from '~/utils/directions'

// The text of one part: edited in place, with its directions, its rests and the sentence that sounds drawn over it.

const props = defineProps<{
  page: Page, loadTick: number, houseStyle: HouseStyle, language: string, casting: Casting, engines: Engines, roles: readonly RoleView[], languages: readonly string[], sounds: readonly SoundView[]
  /** Brings a sound into the library. Resolves to its name there; null when it could not be taken. */
  bringSound: (file: File, name?: string) => Promise<string | null>
  /** Makes a role. Resolves to its id; null when it could not be made. */
  makeRole: (name: string) => Promise<string | null>
  light: Light | null, spokenForm: 'written' | 'both' | 'spoken'
}>()
const emit = defineEmits<{
  edit: [passageId: string, content: Content]
  /** The utterance and the passage the caret is in, and what is selected of it. */
  caret: [utterance: number | null, passageId: string | null, word: readonly [start: number, end: number] | null]
  hear: [utterance: number, onwards: boolean]
  hearContent: [passageId: string, content: Content]
  leave: []
  /** Directions on the lines that are seen. */
  cards: [cards: readonly DirectionCard[]]
  role: [passageIds: readonly string[], role: string | null]
  split: [passageId: string, at: number]
  join: [passageId: string]
  ssml: [text: string]
}>()

type Popup = { readonly what: 'menu' } | { readonly what: 'form', readonly kind: DirectionKind, readonly placed: PlacedDirection | null }
const popup = shallowRef<Popup | null>(null)
const popupAt = ref({ left: 0, top: 0 })
/** Counts changes of the document and the selection: what is computed from them follows. */
const tick = ref(0)

const Keys = Extension.create({
  name: 'keys',
  addKeyboardShortcuts: () => ({
    Enter: () => splitHere(),
    Backspace: () => joinHere(),
  }),
})

nameRoles(props.roles)
const editor = new Editor({
  extensions: [PartDocument, WrittenText, PassageNode, PointNode, DirectionMark, FixedPassages.configure({ onSsml: text => emit('ssml', text) }), HeldTyping.configure({ onEnter: () => { splitHere() } }), OverlayExtension, Keys],
  content: toDocument(props.page.passages),
  editorProps: { attributes: { 'aria-label': 'Text of this part', 'spellcheck': 'false', 'role': 'textbox', 'aria-multiline': 'true' } },
  onUpdate: ({ transaction }) => {
    if (transaction.getMeta('load') === true) return
    transaction.doc.forEach((node, _, index) => {
      if (node !== transaction.before.child(index) && !node.eq(transaction.before.child(index))) emit('edit', String(node.attrs.id), toContent(node))
    })
  },
  onTransaction: () => { tick.value += 1 },
  onSelectionUpdate: () => {
    const { utterance, passageId, selected } = atCaret()
    emit('caret', utterance, passageId, selected ?? wordAtCaret())
  },
})

watch(() => props.loadTick, () => {
  editor.view.dispatch(takeOver(editor.state, props.page.passages).setMeta('load', true))
  drawOverlay()
})
watch(() => props.roles, nameRoles)
watch(() => [props.page.utterances, props.page.fileMarks, props.houseStyle, props.casting, props.roles, props.sounds], drawOverlay)
watch(() => props.light, light => {
  editor.view.dispatch(editor.state.tr.setMeta(lightKey, light))
  void nextTick(() => editor.view.dom.querySelector('.lit')?.scrollIntoView({ block: 'nearest' }))
})
onMounted(() => {
  drawOverlay()
  editor.view.dispatch(editor.state.tr.setMeta(lightKey, props.light))
})
onBeforeUnmount(() => editor.destroy())

function surroundings(passage: Node | null, text?: string): Surroundings {
  const role = props.roles.find(each => each.id === passage?.attrs.role)
  const casting = role?.casting ?? props.casting
  return {
    casting, engine: capabilitiesOf(props.engines, casting), sounds: props.sounds.map(sound => sound.name), language: String(passage?.attrs.language ?? props.language), languages: props.languages,
    ...(text === undefined ? {} : { text }),
  }
}

function supportAt({ direction, from, to }: PlacedDirection, passage: Node | null): ReturnType<typeof supportOf> {
  const lengthOf = (placed: Pick<PlacedDirection, 'from' | 'to'>): number => placed.to - placed.from
  const around = directionsIn(editor.state.doc, from, to).filter(other => other.from <= from && other.to >= to && lengthOf(other) > to - from)
  const outer = toneOf(around.sort((a, b) => lengthOf(b) - lengthOf(a)).map(other => other.direction))
  return supportOf(direction, { ...surroundings(passage, directionRules[direction.kind].point ? undefined : editor.state.doc.textBetween(from, to)), outer })
}

function drawOverlay(): void {
  const overlay: Overlay = {
    language: props.language, utterances: props.page.utterances, said: props.page.said, fileMarks: props.page.fileMarks,
    markStale: props.page.part.state === 'stale' || props.page.part.state === 'partly',
    unavailable: (placed, passage) => {
      const { how, note } = supportAt(placed, passage)
      return how === 'unavailable' ? note ?? '' : null
    },
  }
  editor.view.dispatch(editor.state.tr.setMeta(overlayKey, overlay))
}

function atCaret(): { utterance: number | null, passageId: string | null, selected: readonly [number, number] | null } {
  const { $head, from, to, empty, $from } = editor.state.selection
  if ($head.depth === 0) return { utterance: null, passageId: null, selected: null }
  const passageId = String($head.parent.attrs.id)
  const at = toWritten($head.parent, $head.parentOffset)
  const own = props.page.utterances.map((utterance, index) => ({ utterance, index })).filter(({ utterance }) => utterance.passageId === passageId)
  const found = own.find(({ utterance }) => at <= utterance.end) ?? own.at(-1)
  const within = !empty && $from.sameParent($head) && from >= $head.start() && to <= $head.end()
  return {
    utterance: found?.index ?? null, passageId,
    selected: within ? [toWritten($head.parent, from - $head.start()), toWritten($head.parent, to - $head.start())] : null,
  }
}

/** The word that the caret is in or behind, in the written text. */
function wordAtCaret(): readonly [start: number, end: number] | null {
  const { $head } = editor.state.selection
  if ($head.depth === 0) return null
  const text = writtenText(toContent($head.parent))
  const at = toWritten($head.parent, $head.parentOffset)
  const start = at - /\S*$/u.exec(text.slice(Math.max(0, at - 200), at))![0].length
  const end = at + /^\S*/u.exec(text.slice(at))![0].length
  return end > start ? [start, end] : null
}

function hear(onwards: boolean): void {
  const { utterance, passageId, selected } = atCaret()
  const passage = currentPassage(editor.state)
  if (selected !== null && passage !== null && !onwards && passageId !== null) emit('hearContent', passageId, toContent({ forEach: each => editor.state.selection.content().content.firstChild?.forEach(each) }))
  else if (utterance !== null) emit('hear', utterance, onwards)
}

function splitHere(): boolean {
  const { $head, empty } = editor.state.selection
  if (!empty || $head.depth === 0) return true
  editor.commands.holdTyping()
  emit('split', String($head.parent.attrs.id), toWritten($head.parent, $head.parentOffset))
  return true
}

function joinHere(): boolean {
  const { $head, empty } = editor.state.selection
  if (!empty || $head.depth === 0 || $head.parentOffset > 0 || editor.state.doc.firstChild === $head.parent) return false
  editor.commands.holdTyping()
  emit('join', String($head.parent.attrs.id))
  return true
}

// The menu of directions, and the form of one.

/** What the menu or the form is about: the words of a direction that is there, or those that are selected. */
const edited = computed<readonly Stretch[]>(() => {
  if (popup.value === null || popup.value.what === 'form' && directionRules[popup.value.kind].point) return []
  if (popup.value.what === 'menu' || popup.value.placed === null) return stretches(editor.state)
  const { from, to } = popup.value.placed
  return [{ from, to }]
})
const editedText = computed(() => edited.value.map(({ from, to }) => editor.state.doc.textBetween(from, to)).join(' … '))
watch(edited, now => editor.view.dispatch(editor.state.tr.setMeta(editedKey, now)))

const here = computed(() => tick.value < 0 ? [] : directionsAt(editor.state))
const reasons = computed<Partial<Record<DirectionKind, string>>>(() => {
  if (tick.value < 0 || popup.value?.what !== 'menu') return {}
  const passage = currentNode()
  const text = stretches(editor.state).map(({ from, to }) => editor.state.doc.textBetween(from, to)).join(' ')
  return Object.fromEntries(Object.entries(quickValues).flatMap(([kind, value]) => {
    const blocked = kind === 'role' ? null : obstacle(editor.state, kind as DirectionKind)
    const { how, note } = supportOf({ id: 'x', ...value } as Direction, surroundings(passage, kind === 'sayAs' ? undefined : text))
    const why = blocked ?? (how === 'unavailable' ? note : null)
    return why === null || why === undefined ? [] : [[kind, why]]
  }))
})

function currentNode(): Node | null {
  const { $head } = editor.state.selection
  return $head.depth === 0 ? null : $head.parent
}

function openMenu(): void {
  place()
  popup.value = { what: 'menu' }
}

function place(): void {
  const at = editor.view.coordsAtPos(editor.state.selection.head)
  popupAt.value = { left: Math.max(8, Math.min(at.left, window.innerWidth - 348)), top: at.bottom + 6 > window.innerHeight - 430 ? Math.max(8, at.top - 430) : at.bottom + 6 }
}

function pick(kind: DirectionKind): void {
  if (kind === 'leftOut') return run(addDirection(editor.state, { kind: 'leftOut' }))
  popup.value = { what: 'form', kind, placed: null }
}

/** Opens the form of a new direction, or says why there can be none here. */
function add(kind: AddedKind): void {
  openMenu()
  const why = reasons.value[kind]
  if (why === undefined) pick(kind)
}

function change(placed: PlacedDirection): void {
  place()
  popup.value = { what: 'form', kind: placed.direction.kind, placed }
}

/** Opens the form of a direction that was clicked in the margin. */
function edit(placed: PlacedDirection): void {
  editor.commands.setTextSelection(Math.min(placed.from + 1, placed.to))
  change(placed)
}

function remove(placed: PlacedDirection): void { run(removeDirection(editor.state, placed)) }

function move(placed: PlacedDirection, by: -1 | 1): void {
  const moved = moveDirection(editor.state, placed, by)
  if (moved !== null) editor.view.dispatch(moved.scrollIntoView())
  drawOverlay()
}

function apply(value: DirectionValue): void {
  const open = popup.value
  if (open?.what !== 'form') return
  const passages = rolePassages()
  if (value.kind === 'role' && open.placed === null && passages.length > 0) {
    close()
    emit('role', passages, value.role === props.roles[0]?.id ? null : value.role)
    return
  }
  run(open.placed === null ? addDirection(editor.state, value) : changeDirection(editor.state, open.placed, value))
}

/** The passages that a role is set for as wholes: unless only a piece of one is selected. */
function rolePassages(): string[] {
  const { from, to, empty, $from } = editor.state.selection
  if (!empty && $from.depth > 0 && to <= $from.end() && (from > $from.start() || to < $from.end())) return []
  const ids: string[] = []
  editor.state.doc.nodesBetween(from, to, node => {
    if (node.isTextblock) ids.push(String(node.attrs.id))
    return !node.isTextblock
  })
  return ids
}

/** At once: the editor's own command waits for the next frame, and a key that is pressed before it would be typed. */
function leave(): void {
  editor.view.dom.blur()
  window.getSelection()?.removeAllRanges()
  emit('leave')
}

function run(transaction: Transaction): void {
  close()
  editor.view.dispatch(transaction.scrollIntoView())
  drawOverlay()
}

function close(): void {
  popup.value = null
  editor.view.focus()
}

/** What would be heard before and after the change that the form holds. */
function hearChange(value: DirectionValue | null, scope: HeardScope): void {
  const open = popup.value
  const passage = currentPassage(editor.state)
  if (open?.what !== 'form' || passage === null) return
  const state = value === null ? editor.state
    : editor.state.apply(open.placed === null ? addDirection(editor.state, value) : changeDirection(editor.state, open.placed, value))
  const changed = currentPassage(state)
  if (changed === null) return
  const [start, end] = heardSpan(scope)
  emit('hearContent', passage.id, sliceContent(changed.content, start, end))
}

/** What is heard of the passage that the form is about, in its written text: the words, or the sentences that they are in; at a point the sentences on both sides. */
function heardSpan(scope: HeardScope): readonly [start: number, end: number] {
  const { $head } = editor.state.selection
  const passageId = String($head.parent.attrs.id)
  const begin = $head.start()
  const inText = (at: number): number => toWritten($head.parent, Math.max(0, Math.min(at - begin, $head.parent.content.size)))
  const words = edited.value.filter(({ from }) => from >= begin && from <= $head.end())
  const [from, to] = words.length === 0 ? [inText($head.pos), inText($head.pos)] : [inText(words[0]!.from), inText(words.at(-1)!.to)]
  if (scope === 'words') return [from, to]
  // Between two sentences there is a space.
  const isNear = (each: PageUtterance): boolean => words.length === 0 ? each.end >= from - 1 && each.start <= to + 1 : each.end > from && each.start < to
  const sentences = props.page.utterances.filter(each => each.passageId === passageId && isNear(each))
  return [Math.min(from, ...sentences.map(each => each.start)), Math.max(to, ...sentences.map(each => each.end))]
}

const formNote = (value: DirectionValue) => supportOf({ id: newId(), ...value }, surroundings(currentNode(), editedText.value))

// Cards for the margin.

const scroller = ref<HTMLElement | null>(null)
const measureSoon = useDirectionCards(editor, scroller, {
  supportAt, languageOf: passage => String(passage?.attrs.language ?? props.language), isHere: placed => here.value.some(each => each.direction.id === placed.direction.id && each.from === placed.from),
}, cards => emit('cards', cards))
// Measuring lays the page out: it waits until the keys rest, so that typing does not.
watch([tick, () => props.casting, () => props.roles, () => props.sounds], useDebounceFn(measureSoon, 150))

/** Puts the caret at a place of the written text. */
function goTo(passageId: string, start: number, end = start): void {
  editor.state.doc.forEach((node, offset) => {
    if (node.attrs.id !== passageId) return
    editor.view.focus()
    editor.chain().setTextSelection({ from: offset + 1 + fromWritten(node, start, true), to: offset + 1 + fromWritten(node, end, end === start) }).scrollIntoView().run()
  })
}

/** Top of the line with a place of the written text, px from the top of the window; null where it is not there. */
function lineTop(passageId: string, start: number): number | null {
  let top: number | null = null
  editor.state.doc.forEach((node, offset) => {
    if (node.attrs.id === passageId) top = editor.view.coordsAtPos(Math.min(offset + 1 + fromWritten(node, start, true), offset + 1 + node.content.size)).top
  })
  return top
}

function paste(content: Content): void {
  editor.view.dispatch(insertContent(editor.state, content).scrollIntoView())
  editor.view.focus()
  drawOverlay()
}

const selection = (): ReturnType<typeof atCaret> => atCaret()
useCommands('directions', Object.fromEntries(addedKinds.map(kind => [kind, () => add(kind)])))
defineExpose({ hear, leave, openMenu, edit, remove, goTo, lineTop, typeHeld: () => editor.commands.typeHeld(), paste, selection, focus: () => editor.view.focus() })
</script>

<template>
  <div ref="scroller" class="script-text" :class="`shows-${spokenForm}`">
    <EditorContent :editor="editor" />
    <Teleport to=".v-application">
      <section v-if="popup !== null" aria-label="Directions" class="direction-popup" :style="{ left: `${popupAt.left}px`, top: `${popupAt.top}px` }">
        <DirectionMenu v-if="popup.what === 'menu'" :here="here" :reasons="reasons" @pick="pick" @change="change" @remove="remove" @move="move" @close="close" />
        <DirectionForm
          v-else :kind="popup.kind" :words="editedText" :direction="popup.placed?.direction ?? null" :roles="roles" :languages="languages" :sounds="sounds" :bring-sound="bringSound" :make-role="makeRole" :language="surroundings(currentNode(), '').language" :support="formNote"
          @apply="apply" @hear="hearChange" @remove="popup.what === 'form' && popup.placed !== null && remove(popup.placed)" @close="close"
        />
      </section>
    </Teleport>
  </div>
</template>

<style src="~/assets/script-text.css"></style>
