import type { Node } from '@tiptap/pm/model'
import type { EditorState, Transaction } from '@tiptap/pm/state'
import type { JSONContent } from '@tiptap/core'
import { canonicalContent, type Content, type Direction, type DirectionKind, type Run } from '#core/script/content'
import type { PagePassage } from '#shared/api'

/** The editor's document of a part. */
export function toDocument(passages: readonly PagePassage[]): JSONContent {
  return { type: 'doc', content: passages.map(toNode) }
}

function toNode({ id, kind, content }: PagePassage): JSONContent {
  const kinds = new Map(content.directions.map(direction => [direction.id, direction.kind]))
  return {
    type: 'passage',
    attrs: { id, kind },
    content: content.runs.map(run => ({
      type: 'text',
      text: run.text,
      marks: run.on.map(directionId => ({ type: kinds.get(directionId)!, attrs: { id: directionId } })),
    })),
  }
}

/** The content of a passage node; the inverse of `toDocument`. */
export function toContent(passage: Node): Content {
  const runs: Run[] = []
  const directions = new Map<string, Direction>()
  passage.forEach(child => {
    const on = child.marks.map(mark => {
      const id = String(mark.attrs.id)
      directions.set(id, { id, kind: mark.type.name as DirectionKind })
      return id
    })
    runs.push({ text: child.text ?? '', on })
  })
  return canonicalContent({ version: 1, runs, directions: [...directions.values()] })
}

/** Brings a document to these passages. Where they are the same ones, only what differs is replaced, so that the caret stays. */
export function takeOver(state: EditorState, passages: readonly PagePassage[]): Transaction {
  const { doc, tr: transaction } = state
  const wanted = passages.map(passage => state.schema.nodeFromJSON(toNode(passage)))
  if (doc.childCount !== wanted.length || wanted.some((node, index) => node.attrs.id !== doc.child(index).attrs.id)) {
    return transaction.replaceWith(0, doc.content.size, wanted)
  }
  doc.forEach((node, offset, index) => {
    const start = node.content.findDiffStart(wanted[index]!.content)
    if (start === null) return
    const end = node.content.findDiffEnd(wanted[index]!.content)!
    // Equal letters on both sides of a change may count twice.
    const overlap = Math.max(0, start - Math.min(end.a, end.b))
    const from = transaction.mapping.map(offset + 1 + start)
    const to = transaction.mapping.map(offset + 1 + end.a + overlap)
    transaction.replace(from, to, wanted[index]!.slice(start, end.b + overlap))
  })
  return transaction
}
