import type { Node } from '@tiptap/pm/model'
import type { EditorState, Transaction } from '@tiptap/pm/state'
import type { JSONContent } from '@tiptap/core'
import { canonicalContent, type Content, type Run } from '#core/script/content'
import type { Direction } from '#core/script/directions'
import type { PagePassage } from '#shared/api'

/** The editor's document of a part. */
export function toDocument(passages: readonly PagePassage[]): JSONContent {
  return { type: 'doc', content: passages.map(toNode) }
}

function toNode({ id, kind, level, content, language, role }: PagePassage): JSONContent {
  return { type: 'passage', attrs: { id, kind, level: level ?? null, language, role }, content: toInline(content) }
}

/** The text and points of a content, as the editor has them. */
export function toInline(content: Content): JSONContent[] {
  const directions = new Map(content.directions.map(direction => [direction.id, direction]))
  return content.runs.map(run => ({
    ...(run.point === undefined ? { type: 'text', text: run.text } : { type: 'point', attrs: { direction: directions.get(run.point)! } }),
    marks: run.on.map(id => ({ type: 'direction', attrs: { direction: directions.get(id)! } })),
  }))
}

/** The content of a passage node, or of any node of text; the inverse of `toDocument`. */
export function toContent(passage: Pick<Node, 'forEach'>): Content {
  const runs: Run[] = []
  const directions = new Map<string, Direction>()
  const take = (direction: Direction): string => {
    directions.set(direction.id, direction)
    return direction.id
  }
  passage.forEach(child => {
    const on = child.marks.map(mark => take(mark.attrs.direction as Direction))
    runs.push(child.isText ? { text: child.text ?? '', on } : { text: '', on, point: take(child.attrs.direction as Direction) })
  })
  return canonicalContent({ version: 2, runs, directions: [...directions.values()] })
}

/** The place in the written text of a place in a passage node: points take room there, but none in the text. */
export function toWritten(passage: Node, offset: number): number {
  let points = 0
  passage.forEach((child, at) => { if (!child.isText && at < offset) points += 1 })
  return offset - points
}

/** The place in a passage node of a place in its written text, behind the points that stand there when it begins something. */
export function fromWritten(passage: Node, written: number, begins: boolean): number {
  let at = 0
  let left = written
  for (let index = 0; index < passage.childCount; index += 1) {
    const child = passage.child(index)
    if (child.isText) {
      if (begins ? left < child.nodeSize : left <= child.nodeSize) return at + left
      left -= child.nodeSize
    } else if (!begins && left === 0) {
      return at
    }
    at += child.nodeSize
  }
  return at
}

/** Brings a document to these passages. Where they are the same ones, only what differs is replaced, so that the caret stays. */
export function takeOver(state: EditorState, passages: readonly PagePassage[]): Transaction {
  const { doc, tr: transaction } = state
  const wanted = passages.map(passage => state.schema.nodeFromJSON(toNode(passage)))
  if (doc.childCount !== wanted.length || wanted.some((node, index) => node.attrs.id !== doc.child(index).attrs.id)) {
    return transaction.replaceWith(0, doc.content.size, wanted)
  }
  doc.forEach((node, offset, index) => {
    const next = wanted[index]!
    const at = transaction.mapping.map(offset)
    if (!node.sameMarkup(next)) transaction.setNodeMarkup(at, null, next.attrs)
    const start = node.content.findDiffStart(next.content)
    if (start === null) return
    const end = node.content.findDiffEnd(next.content)!
    // Equal letters on both sides of a change may count twice.
    const overlap = Math.max(0, start - Math.min(end.a, end.b))
    const from = transaction.mapping.map(offset + 1 + start)
    const to = transaction.mapping.map(offset + 1 + end.a + overlap)
    transaction.replace(from, to, next.slice(start, end.b + overlap))
  })
  return transaction
}
