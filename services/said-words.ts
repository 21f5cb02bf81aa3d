import { createHash } from 'node:crypto'
import { spokenOf } from '#core/score/compile'
import type { Group, SpokenForm } from '#core/score/spoken'
import type { Passage } from '#core/script/script'
import type { SaidPlace } from '#shared/api'
import { breather } from '#store/breathe'
import { toPassage, type ScoredEdition, type ScoredPart } from '#store/score'

/** What is said in passages, by the digest of all that it comes from: after an edit only that passage is looked at. The oldest go first. */
const known = new Map<string, readonly SaidPlace[]>()
const mostKnown = 20_000

/** What wordbooks and rules make of the words of a part; what directions do is seen in the text itself. */
export async function saidPlaces({ context, edition, style, wordbooks, decisions }: ScoredEdition, { row, passages }: ScoredPart): Promise<SaidPlace[]> {
  if (context.rules?.rules.length === 0 && wordbooks.every(wordbook => wordbook.entries.length === 0)) return []
  const surroundings = createHash('sha256').update(JSON.stringify([edition.language, style.rules, wordbooks.map(wordbook => wordbook.entries), decisions, row.label])).digest('base64')
  const breathe = breather()
  const places: SaidPlace[] = []
  for (const passage of passages.map(toPassage)) {
    const key = createHash('sha256').update(surroundings).update(JSON.stringify(passage)).digest('base64')
    const own = known.get(key) ?? saidIn(passage, { ...context, partLabel: row.label })
    known.set(key, own)
    if (known.size > mostKnown) known.delete(known.keys().next().value!)
    places.push(...own)
    await breathe()
  }
  return places
}

function saidIn(passage: Passage, context: Parameters<typeof spokenOf>[1]): SaidPlace[] {
  const form = spokenOf(passage, context)
  const places: SaidPlace[] = []
  for (const group of form.groups) {
    const last = group.by?.at(-1)
    if (last === undefined || 'direction' in last) continue
    const [start, end] = group.written
    const before = places.at(-1)
    const as = wordsOf(form, group)
    // Words that a rule has made can be said in several pieces.
    if (before !== undefined && before.start === start && before.end === end) places[places.length - 1] = { ...before, as: `${before.as}${as}` }
    else places.push({ passageId: passage.id, start, end, as, by: 'word' in last ? 'word' : 'rule' })
  }
  const rests = form.points.flatMap(({ ruled, direction, writtenAt }): SaidPlace[] => ruled === true && direction.kind === 'rest' && 'ms' in direction && direction.ms >= leastShownMs
    ? [{ passageId: passage.id, start: writtenAt, end: writtenAt, as: '', by: 'rule', restMs: direction.ms }]
    : [])
  return [...places.map(place => ({ ...place, as: place.as.replace(/\s+/gu, ' ').trim() })), ...rests]
}

/** Shorter rests of rules are not shown in the text, ms: there is one at every comma. */
const leastShownMs = 200

function wordsOf({ spans, text }: SpokenForm, { spoken: [from, to] }: Group): string {
  const own = spans.find(span => span.start === from && span.end === to && span.direction.id.startsWith('word '))?.direction
  const spoken = text.slice(from, to)
  return own?.kind === 'phoneme' ? `/${own.ph}/` : own === undefined ? spoken : [...spoken].join(' ')
}
