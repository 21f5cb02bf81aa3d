import type { Passage, Script } from '../script/script'
import type { Manuscript } from './manuscript'
import { contentOf, type ProposedPart, type ProposedPassage } from './structure'

/** The script of a manuscript with ordinal ids: part `3`, its passage `3.12`. Equal files have equal scripts. */
export function toScript(manuscript: Manuscript, parts: readonly ProposedPart[]): Script {
  return {
    title: manuscript.title ?? parts[0]?.label ?? '',
    author: manuscript.author,
    language: manuscript.language,
    parts: parts.map((part, index) => ({
      id: String(index + 1),
      kind: part.kind,
      label: part.label,
      included: part.included,
      passages: part.passages.map((passage, ordinal) => toPassage(passage, passageId(index, ordinal))),
    })),
  }
}

/** Empty lines of the source before passages of a script that was made of parts, by their ids. */
export function emptyLinesOf({ blocks }: Pick<Manuscript, 'blocks'>, parts: readonly ProposedPart[]): Map<string, number> {
  const lines = new Map<string, number>()
  parts.forEach(({ passages }, index) => {
    passages.forEach(({ block }, ordinal) => {
      const empty = block === null ? undefined : blocks[block]?.emptyLines
      if (empty !== undefined) lines.set(passageId(index, ordinal), empty)
    })
  })
  return lines
}

const passageId = (part: number, ordinal: number): string => `${part + 1}.${ordinal + 1}`

function toPassage(passage: ProposedPassage, id: string): Passage {
  const { kind, level, language, role } = passage
  return { id, kind, content: contentOf(passage), ...(level === undefined ? {} : { level }), ...(language === undefined ? {} : { language }), ...(role === undefined ? {} : { role }) }
}
