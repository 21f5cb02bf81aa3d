import { Fragment, Slice, type Mark, type Node } from '@tiptap/pm/model'
import { NodeSelection, TextSelection, type EditorState, type Transaction } from '@tiptap/pm/state'
import { v7 as uuidv7 } from 'uuid'
import { writtenText, type Content } from '#core/script/content'
import { directionRules, type Direction, type DirectionKind, type DirectionValue } from '#core/script/directions'
import { toContent, toInline } from './convert'
import { valueOf } from './schema'

// Directions in the editor: found, put on, changed, taken off.

/** A direction where it stands in the document. */
export interface PlacedDirection {
  readonly direction: Direction
  readonly from: number
  readonly to: number
}

export function newId(): string {
  return `d${uuidv7()}`
}

/** Every direction of a document or of a passage, in the order of their beginnings. */
export function directionsIn(doc: Node, from = 0, to = doc.content.size): PlacedDirection[] {
  const spans = new Map<string, PlacedDirection>()
  const result: PlacedDirection[] = []
  const add = (direction: Direction, start: number, end: number): void => {
    const known = spans.get(direction.id)
    if (known === undefined) {
      const placed = { direction, from: start, to: end }
      spans.set(direction.id, placed)
      result.push(placed)
    } else {
      Object.assign(known, { to: end })
    }
  }
  doc.nodesBetween(from, to, (node, at) => {
    // An id is one direction's within its passage only.
    if (node.isTextblock) spans.clear()
    if (!node.isInline) return
    for (const mark of node.marks) add(mark.attrs.direction as Direction, at, at + node.nodeSize)
    if (!node.isText) add(node.attrs.direction as Direction, at, at + node.nodeSize)
  })
  return result
}

/** The directions at the caret or on the selection, innermost first; their whole spans. */
export function directionsAt(state: EditorState): PlacedDirection[] {
  const { selection: { from, to, $from } } = state
  const start = $from.depth === 0 ? 0 : $from.start()
  const end = $from.depth === 0 ? state.doc.content.size : $from.end()
  return directionsIn(state.doc, Math.min(start, from), Math.max(end, to))
    .filter(placed => from === to ? placed.from <= from && placed.to >= from : placed.from < to && placed.to > from)
    .sort((a, b) => (a.to - a.from) - (b.to - b.from))
}

/** The stretches of the selection, passage by passage; of a caret, the word it is in. */
export function stretches(state: EditorState): { readonly from: number, readonly to: number }[] {
  const { selection, doc } = state
  if (selection.empty || selection instanceof NodeSelection) {
    const word = wordAt(state)
    return word === null ? [] : [word]
  }
  const result: { from: number, to: number }[] = []
  doc.nodesBetween(selection.from, selection.to, (node, at) => {
    if (!node.isTextblock) return
    const text = { from: Math.max(selection.from, at + 1), to: Math.min(selection.to, at + 1 + node.content.size) }
    const trimmed = trimSpaces(doc, text.from, text.to)
    if (trimmed.to > trimmed.from) result.push(trimmed)
    return false
  })
  return result
}

function trimSpaces(doc: Node, from: number, to: number): { from: number, to: number } {
  const text = doc.textBetween(from, to, undefined, '\ufffc')
  return { from: from + text.length - text.trimStart().length, to: to - (text.length - text.trimEnd().length) }
}

function wordAt({ selection: { $head } }: EditorState): { from: number, to: number } | null {
  if ($head.depth === 0) return null
  const text = $head.parent.textBetween(0, $head.parent.content.size, undefined, '\ufffc')
  const isPart = (sign: string | undefined): boolean => sign !== undefined && /[\p{L}\p{M}\p{N}'’.°%£$€+-]/u.test(sign)
  let [start, end] = [$head.parentOffset, $head.parentOffset]
  while (start > 0 && isPart(text[start - 1])) start -= 1
  while (end < text.length && isPart(text[end])) end += 1
  while (end > start && /[.'’-]/u.test(text[end - 1]!)) end -= 1
  return end > start ? { from: $head.start() + start, to: $head.start() + end } : null
}

/** Why a direction of a kind cannot be put on the selection; null when it can. */
export function obstacle(state: EditorState, kind: DirectionKind): string | null {
  if (directionRules[kind].point) return null
  const spans = stretches(state)
  if (spans.length === 0) return 'Put the caret into a word, or select some text.'
  for (const { from, to } of spans) {
    const why = inTheWay(kind, directionsIn(state.doc, from, to), from, to)
    if (why !== null) return why
  }
  return null
}

/** Why a direction of a kind cannot cover a stretch in which these others are. */
function inTheWay(kind: DirectionKind, inside: readonly PlacedDirection[], from: number, to: number): string | null {
  const { textOnly } = directionRules[kind]
  if (textOnly && inside.some(placed => placed.from >= from && placed.to <= to && (directionRules[placed.direction.kind].point || placed.to - placed.from < to - from || directionRules[placed.direction.kind].textOnly))) {
    return 'It can hold only text: take the directions inside it off first.'
  }
  const around = inside.find(placed => directionRules[placed.direction.kind].textOnly && (placed.from < from || placed.to > to))
  return around === undefined ? null : 'What stands here is spoken as one: take that direction off first.'
}

/** Puts a direction on the selection, each stretch with an id of its own; at the caret, when its kind stands at a point. */
export function addDirection(state: EditorState, value: DirectionValue): Transaction {
  const { tr: transaction, schema } = state
  if (directionRules[value.kind].point) {
    const at = pointPlace(state)
    return transaction.insert(at, schema.nodes['point']!.create({ direction: { id: newId(), ...value } }))
  }
  for (const { from, to } of stretches(state)) transaction.addMark(from, to, markOf(state, { id: newId(), ...value }))
  return transaction
}

/** A point stands at the head of the selection, but never within a word. */
function pointPlace(state: EditorState): number {
  const { $head } = state.selection
  const word = wordAt(state)
  if (word === null || word.from === $head.pos || word.to === $head.pos) return $head.pos
  return $head.pos - word.from < word.to - $head.pos ? word.from : word.to
}

function markOf({ schema }: EditorState, direction: Direction): Mark {
  return schema.marks['direction']!.create({ direction })
}

/** Gives a direction another value, all over its span. */
export function changeDirection(state: EditorState, placed: PlacedDirection, value: DirectionValue): Transaction {
  const { tr: transaction } = state
  const direction: Direction = { id: placed.direction.id, ...value }
  if (directionRules[value.kind].point) return transaction.setNodeMarkup(placed.from, null, { direction })
  return transaction.removeMark(placed.from, placed.to, markOf(state, placed.direction)).addMark(placed.from, placed.to, markOf(state, direction))
}

/** Moves a direction by a word, within its passage, and the caret with it; null where it would leave the passage or cannot stand. */
export function moveDirection(state: EditorState, { direction, from, to }: PlacedDirection, by: -1 | 1): Transaction | null {
  const { doc, tr: transaction } = state
  const $from = doc.resolve(from)
  const words = [...$from.parent.textBetween(0, $from.parent.content.size, undefined, '\ufffc').matchAll(/[^\s\ufffc]+/gu)]
    .map(match => ({ from: $from.start() + match.index, to: $from.start() + match.index + match[0].length }))
  if (directionRules[direction.kind].point) {
    const places = [...words.map(word => word.from), $from.end()]
    const place = by === 1 ? places.find(each => each > to) : places.findLast(each => each < from)
    if (place === undefined) return null
    const at = transaction.delete(from, to).mapping.map(place)
    transaction.insert(at, state.schema.nodes['point']!.create({ direction }))
    return transaction.setSelection(TextSelection.create(transaction.doc, at))
  }
  const first = words[words.findIndex(word => word.to > from) + by]
  const last = words[words.findLastIndex(word => word.from < to) + by]
  if (first === undefined || last === undefined || last.to <= first.from) return null
  const others = directionsIn(doc, first.from, last.to).filter(placed => placed.direction.id !== direction.id)
  if (inTheWay(direction.kind, others, first.from, last.to) !== null) return null
  return transaction.removeMark(from, to, markOf(state, direction)).addMark(first.from, last.to, markOf(state, direction))
    .setSelection(TextSelection.create(transaction.doc, first.from + 1))
}

export function removeDirection(state: EditorState, placed: PlacedDirection): Transaction {
  return directionRules[placed.direction.kind].point
    ? state.tr.delete(placed.from, placed.to)
    : state.tr.removeMark(placed.from, placed.to, markOf(state, placed.direction))
}

/** What is pasted, as one line of text with its directions, these under new ids. */
export function asInline(slice: Slice): Slice {
  const ids = new Map<string, string>()
  const renewed = (direction: Direction): Direction => {
    const id = ids.get(direction.id) ?? newId()
    ids.set(direction.id, id)
    return { id, ...valueOf(direction) }
  }
  const nodes: Node[] = []
  slice.content.descendants(node => {
    if (node.isTextblock && nodes.length > 0) nodes.push(node.type.schema.text(' '))
    if (!node.isInline) return
    const marks = node.marks.map(mark => mark.type.create({ direction: renewed(mark.attrs.direction as Direction) }))
    nodes.push(node.isText ? node.type.schema.text(node.text!.replace(/\s+/gu, ' '), marks) : node.type.create({ direction: renewed(node.attrs.direction as Direction) }, null, marks))
  })
  return new Slice(Fragment.fromArray(nodes), 0, 0)
}

/** A content in place of the selection. */
export function insertContent(state: EditorState, content: Content): Transaction {
  const nodes = toInline(content).map(json => state.schema.nodeFromJSON(json))
  return state.tr.replaceSelection(asInline(new Slice(Fragment.fromArray(nodes), 0, 0)))
}

/** The passage that holds the caret, its content, and the selection in its written text. */
export function currentPassage(state: EditorState): { readonly id: string, readonly content: Content, readonly text: string } | null {
  const { $head } = state.selection
  if ($head.depth === 0) return null
  const content = toContent($head.parent)
  return { id: String($head.parent.attrs.id), content, text: writtenText(content) }
}
