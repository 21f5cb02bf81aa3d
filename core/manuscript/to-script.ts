import { plainContent } from '../script/content'
import type { Script } from '../script/script'
import type { Manuscript } from './manuscript'
import type { ProposedPart } from './structure'

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
      included: true,
      passages: part.passages.map((passage, ordinal) => ({
        id: `${index + 1}.${ordinal + 1}`, kind: passage.kind, content: plainContent(passage.text),
      })),
    })),
  }
}
