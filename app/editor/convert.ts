import type { Node } from '@tiptap/pm/model'
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
