import type { SaidPlace } from '#shared/api'
import { spokenOf } from '#core/score/compile'
import type { Group, SpokenForm } from '#core/score/spoken'
import { toPassage, type ScoredEdition, type ScoredPart } from '#store/score'

/** What wordbooks and rules make of the words of a part; what directions do is seen in the text itself. */
export function saidPlaces({ context, wordbooks }: ScoredEdition, { row, passages }: ScoredPart): SaidPlace[] {
  if (context.rules?.rules.length === 0 && wordbooks.every(wordbook => wordbook.entries.length === 0)) return []
  return passages.flatMap(passage => {
    const form = spokenOf(toPassage(passage), { ...context, partLabel: row.label })
    const places: SaidPlace[] = []
    for (const group of form.groups) {
      const last = group.by?.at(-1)
      if (last === undefined || 'direction' in last) continue
      const [start, end] = group.written
      const before = places.at(-1)
      const as = saidIn(form, group)
      // Words that a rule has made can be said in several pieces.
      if (before !== undefined && before.start === start && before.end === end) places[places.length - 1] = { ...before, as: `${before.as}${as}` }
      else places.push({ passageId: passage.id, start, end, as, by: 'word' in last ? 'word' : 'rule' })
    }
    const rests = form.points.flatMap(({ ruled, direction, writtenAt }): SaidPlace[] => ruled === true && direction.kind === 'rest' && 'ms' in direction && direction.ms > 0
      ? [{ passageId: passage.id, start: writtenAt, end: writtenAt, as: '', by: 'rule', restMs: direction.ms }]
      : [])
    return [...places.map(place => ({ ...place, as: place.as.replace(/\s+/gu, ' ').trim() })), ...rests]
  })
}

function saidIn({ spans, text }: SpokenForm, { spoken: [from, to] }: Group): string {
  const own = spans.find(span => span.start === from && span.end === to && span.direction.id.startsWith('word '))?.direction
  const spoken = text.slice(from, to)
  return own?.kind === 'phoneme' ? `/${own.ph}/` : own === undefined ? spoken : [...spoken].join(' ')
}
