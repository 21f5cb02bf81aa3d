import { Extension } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { Plugin, PluginKey } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'
import { wordsOf } from '#core/score/spoken'
import type { FileMark } from '#core/runsheet/split'
import type { PageUtterance, SaidPlace } from '#shared/api'
import { directionsIn, type PlacedDirection } from './commands'
import { roleName, signOf } from './signs'
import { fromWritten } from './convert'

/** What is drawn over the text. None of it is in the document. */
export interface Overlay {
  readonly language: string
  readonly utterances: readonly PageUtterance[]
  readonly said: readonly SaidPlace[]
  /** Where a delivered file begins or goes on by hand, by the ids of passages. */
  readonly fileMarks: Readonly<Record<string, FileMark>>
  /** Whether sentences without a take are marked: not in a part that was never read. */
  readonly markStale: boolean
  /** Why the voice cannot do a direction; null when it can. */
  readonly unavailable: (placed: PlacedDirection, passage: Node) => string | null
}

/** What sounds or is chosen: a sentence, and a word in it. */
export interface Light {
  readonly passageId: string
  readonly start: number
  readonly end: number
  readonly word: { readonly start: number, readonly end: number } | null
}

/** The transaction metadata that changes what is drawn. */
export const overlayKey: PluginKey<DecorationSet> = new PluginKey('overlay')
export const lightKey: PluginKey<DecorationSet> = new PluginKey('light')
export const editedKey: PluginKey<DecorationSet> = new PluginKey('edited')

/** A stretch of the document. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

/** A second is this high on the page. */
const pixelsPerSecond = 24
const longestDrawnMs = 3000
const smallestBracket = 9
const fileTagHeight = 18

const fileSigns: Readonly<Record<FileMark, string>> = { begins: 'A file begins', goesOn: 'The file goes on' }

export const OverlayExtension: Extension = Extension.create({
  name: 'overlay',
  addProseMirrorPlugins: () => [layer(overlayKey, draw), layer(lightKey, shine), layer(editedKey, underline)],
})

function layer<T>(key: PluginKey<DecorationSet>, drawn: (doc: Node, what: T) => DecorationSet): Plugin {
  return new Plugin({
    key,
    state: {
      init: () => DecorationSet.empty,
      apply: (transaction, decorations) => {
        const next = transaction.getMeta(key) as T | undefined
        return next === undefined ? decorations.map(transaction.mapping, transaction.doc) : drawn(transaction.doc, next)
      },
    },
    props: { decorations: state => key.getState(state) },
  })
}

function shine(doc: Node, light: Light | null): DecorationSet {
  const decorations: Decoration[] = []
  doc.forEach((node, offset) => {
    if (light === null || node.attrs.id !== light.passageId) return
    const span = ({ start, end }: { start: number, end: number }, className: string): void => {
      const [from, to] = [offset + 1 + fromWritten(node, start, true), offset + 1 + fromWritten(node, end, false)]
      if (to > from) decorations.push(Decoration.inline(from, to, { class: className }))
    }
    span(light, 'lit')
    if (light.word !== null) span(light.word, 'lit-word')
  })
  return DecorationSet.create(doc, decorations)
}

/** The stretches that a form speaks of, while the text has not the focus. */
function underline(doc: Node, edited: readonly Stretch[]): DecorationSet {
  return DecorationSet.create(doc, edited.map(({ from, to }) => Decoration.inline(from, to, { class: 'edited' })))
}

function draw(doc: Node, { language, utterances, said, fileMarks, markStale, unavailable }: Overlay): DecorationSet {
  const decorations: Decoration[] = []
  const passages = new Map<string, { from: number, node: Node }>()
  /** What is heard first of each passage: the silence before it stands above the passage. */
  const first = new Map<string, PageUtterance>()
  for (const utterance of utterances) if (!first.has(utterance.passageId)) first.set(utterance.passageId, utterance)
  doc.forEach((node, offset) => {
    passages.set(String(node.attrs.id), { from: offset + 1, node })
    const heard = first.get(String(node.attrs.id))
    const mark = fileMarks[String(node.attrs.id)]
    const room = mark === undefined ? 0 : fileTagHeight
    if (heard !== undefined && heard !== utterances[0]) decorations.push(restAbove(offset, node.nodeSize, Math.round(heard.restBeforeMs), heard.restIsDirected, room))
    else if (room > 0) decorations.push(Decoration.node(offset, offset + node.nodeSize, { style: `--rest-gap: ${room}px` }))
    if (mark !== undefined) decorations.push(Decoration.widget(offset + 1, () => drawnTag('file-tag', 'file', fileSigns[mark]), { side: -1, key: `file ${mark}`, ignoreSelection: true }))
    if (node.attrs.role !== null) {
      const role = roleName(String(node.attrs.role))
      decorations.push(Decoration.widget(offset + 1, () => drawnTag('role-tag', 'role', role), { side: -1, key: `role ${role}`, ignoreSelection: true }))
    }
    for (const placed of directionsIn(node).map(each => ({ ...each, from: each.from + offset + 1, to: each.to + offset + 1 }))) {
      const why = unavailable(placed, node)
      const words = signOf(placed.direction).spoken ?? wordsOf(placed.direction, doc.textBetween(placed.from, placed.to), String(node.attrs.language ?? language))
      if (words !== null) decorations.push(...spokenAbove(placed.from, placed.to, words, placed.direction.id, {}))
      if (why !== null) decorations.push(Decoration.inline(placed.from, placed.to, { class: 'cannot', title: why }))
    }
  })
  for (const { passageId, start, end, as, by, restMs } of said) {
    const passage = passages.get(passageId)
    if (passage === undefined) continue
    if (restMs !== undefined) {
      decorations.push(Decoration.widget(passage.from + fromWritten(passage.node, start, false), () => drawnTag('ruled-rest', 'rest', String(restMs)), { side: -1, key: `rest ${start} ${restMs}`, ignoreSelection: true }))
      continue
    }
    const [from, to] = [passage.from + fromWritten(passage.node, start, true), passage.from + fromWritten(passage.node, end, false)]
    if (to <= from) continue
    decorations.push(...spokenAbove(from, to, as, `${by} ${start}`, by === 'word' ? { class: 'from-wordbook', title: `Said “${as}”, as the wordbook has it` } : { class: as === '' ? 'from-rule unspoken' : 'from-rule', title: as === '' ? 'Left unspoken by the house style' : `Said “${as}”, as the house style has it` }))
  }
  if (markStale) {
    for (const utterance of utterances) {
      const passage = passages.get(utterance.passageId)
      if (passage === undefined || !utterance.stale) continue
      const [from, to] = [passage.from + fromWritten(passage.node, utterance.start, true), passage.from + fromWritten(passage.node, utterance.end, false)]
      if (to > from) decorations.push(Decoration.inline(from, to, { class: 'stale-sentence', title: 'Not read since it was changed' }))
    }
  }
  return DecorationSet.create(doc, decorations)
}

/** What is spoken, above the text in whose place it is. */
function spokenAbove(from: number, to: number, words: string, id: string, attributes: { readonly class?: string, readonly title?: string }): Decoration[] {
  return [
    Decoration.inline(from, to, { ...attributes, class: `has-spoken ${attributes.class ?? ''}`.trim() }),
    Decoration.widget(from, () => drawnTag('spoken-above', 'spoken', words), { side: -1, key: `spoken ${id} ${words}`, ignoreSelection: true }),
  ]
}

/** Drawn by its attribute, so that copies and screen readers meet the written text only. */
function drawnTag(className: string, name: string, text: string): HTMLElement {
  const tag = document.createElement('span')
  tag.className = className
  tag.dataset[name] = text
  tag.contentEditable = 'false'
  return tag
}

/** The space above a passage is the rest before it, and a bracket in the gutter says how long it is; heavier when it is set by hand. */
function restAbove(offset: number, nodeSize: number, restMs: number, byHand: boolean, leastGap: number): Decoration {
  const gap = Math.max(leastGap, Math.min(restMs, longestDrawnMs) * pixelsPerSecond / 1000)
  return Decoration.node(offset, offset + nodeSize, {
    'style': `--rest-gap: ${gap}px; --bracket: ${Math.max(gap, smallestBracket)}px`,
    'data-rest': String(restMs),
    ...(restMs > longestDrawnMs ? { 'data-rest-broken': '' } : {}),
    ...(byHand ? { 'data-rest-by-hand': '' } : {}),
  })
}
