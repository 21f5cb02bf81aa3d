import { spokenOf } from '#core/score/compile'
import type { CastUtterance } from '#core/score/request'
import type { Step } from '#core/score/segments'
import { writtenText, type Content } from '#core/script/content'
import { spokenBetween } from '#core/score/spoken'
import type { WhyStep, WhyView } from '#shared/api'
import { engineKind } from '#voices/registry'
import { toPassage, type ScoredEdition, type ScoredPart } from '#store/score'

/** What made a place what is spoken. */
export interface WhyAt extends Omit<WhyView, 'ipa'> {
  /** Pronunciations (IPA) in it. */
  readonly pronounced: readonly string[]
  /** Something in it is said letter by letter. */
  readonly isSpelt: boolean
}

/** What made a place of a passage what is spoken, and what the engine is given; null when there is no such passage. */
export function whyAt({ context, style, wordbooks }: ScoredEdition, { row, passages, score }: ScoredPart, passageId: string, start: number, end: number): WhyAt | null {
  const found = passages.find(passage => passage.id === passageId)
  if (found === undefined) return null
  const passage = toPassage(found)
  const form = spokenOf(passage, { ...context, partLabel: row.label })
  const groups = form.groups.filter(group => group.written[0] < end && group.written[1] > start)
  // What is said as a whole is explained as a whole.
  const whole = groups.filter(group => group.replaced === true)
  const [from, to] = [Math.min(start, ...whole.map(group => group.written[0])), Math.max(end, ...whole.map(group => group.written[1]))]
  const utterance = score.utterances.find(each => each.passageId === passageId && each.start < to && each.end > from)
  const tones = (utterance?.segments ?? []).filter(({ words }) => words.some((at, index) => index % 2 === 0 && at < to && words[index + 1]! > from)).map(({ tone }) => tone)
  return {
    written: writtenText(passage.content).slice(from, to), spoken: spokenBetween(form, from, to), sent: utterance === undefined ? '' : sentFor(utterance, from, to),
    pronounced: [...new Map(tones.flatMap(({ phoneme }) => phoneme === null ? [] : [[phoneme.id, phoneme.ph]])).values()], isSpelt: tones.some(tone => tone.characters),
    steps: form.steps.filter(step => step.written[0] < to && step.written[1] > from || step.written[0] === step.written[1] && step.written[0] >= from && step.written[0] <= to)
      .map(step => shown(step, passage.content)),
  }

  function shown({ by, from: before, to: after, restBeforeMs = 0, restAfterMs = 0, on }: Step, content: Content): WhyStep {
    const restMs = restBeforeMs + restAfterMs
    const values = { from: before, to: after, ...(restMs > 0 ? { restMs } : {}), ...(on === undefined ? {} : { how: on }) }
    if ('direction' in by) return { by: 'direction', id: by.direction, name: content.directions.find(direction => direction.id === by.direction)?.kind ?? '', ...values }
    if ('word' in by) return { by: 'word', id: by.word, name: wordbooks.flatMap(book => book.entries).find(entry => entry.id === by.word)?.graphemes[0] ?? '', ...values }
    return { by: 'rule', id: by.rule, name: style.rules.find(rule => rule.id === by.rule)?.does ?? '', ...values }
  }
}

/** What an engine is sent for a piece of the written text. */
function sentFor({ request, words, length }: CastUtterance, start: number, end: number): string {
  const places = Array.from({ length: words.length / 3 }, (_, index) => words.slice(index * 3, index * 3 + 3) as [place: number, start: number, end: number])
  const own = places.filter(([, from, to]) => from < end && to > start)
  if (own.length === 0) return ''
  const next = places.find(([place]) => place > own.at(-1)![0])?.[0] ?? length
  return engineKind(request.engine).excerpt(request, own[0]![0], next)
}
