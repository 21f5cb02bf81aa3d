import type { SaidWord } from '#shared/api'
import { spokenForm } from '#core/score/spoken'
import type { ScoredEdition, ScoredPart } from '#store/score'

/** What the wordbooks say about the words of a part. */
export function saidWords({ wordbooks, context }: ScoredEdition, { passages }: ScoredPart): SaidWord[] {
  if (wordbooks.every(wordbook => wordbook.entries.length === 0)) return []
  return passages.flatMap(({ id, content, language }) => {
    const { groups, spans, text } = spokenForm(content, language ?? context.language, context.findWords)
    return groups.flatMap(({ by, written: [start, end], spoken: [from, to] }): SaidWord[] => {
      if (by === undefined || !('word' in by)) return []
      const own = spans.find(span => span.start === from && span.end === to && span.direction.id === `word ${by.word} ${start}`)?.direction
      const spoken = text.slice(from, to)
      return [{ passageId: id, start, end, as: own?.kind === 'phoneme' ? `/${own.ph}/` : own === undefined ? spoken : [...spoken].join(' ') }]
    })
  })
}
