import { spokenOf } from '#core/score/compile'
import type { Step } from '#core/score/segments'
import { writtenText, type Content } from '#core/script/content'
import { spokenBetween } from '#core/words/census'
import type { WhyStep, WhyView } from '#shared/api'
import { toPassage, type ScoredEdition, type ScoredPart } from '#store/score'

/** What made a place of a passage what is spoken, and what the engine is given; null when there is no such passage. */
export function whyAt({ context, style, wordbooks }: ScoredEdition, { row, passages, score }: ScoredPart, passageId: string, start: number, end: number): Omit<WhyView, 'ipa'> | null {
  const found = passages.find(passage => passage.id === passageId)
  if (found === undefined) return null
  const passage = toPassage(found)
  const form = spokenOf(passage, { ...context, partLabel: row.label })
  const groups = form.groups.filter(group => group.written[0] < end && group.written[1] > start)
  // What is said as a whole is explained as a whole.
  const whole = groups.filter(group => group.replaced === true)
  const [from, to] = [Math.min(start, ...whole.map(group => group.written[0])), Math.max(end, ...whole.map(group => group.written[1]))]
  const utterance = score.utterances.find(each => each.passageId === passageId && each.start < to && each.end > from)
  return {
    written: writtenText(passage.content).slice(from, to), spoken: spokenBetween(form, from, to), sent: utterance === undefined ? '' : sentFor(utterance.request.markup, utterance.words, from, to),
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

/** The piece of an utterance's markup that some written text became, with the elements right around it. */
function sentFor(markup: string, words: readonly number[], start: number, end: number): string {
  const signs = [...markup]
  const places = Array.from({ length: words.length / 3 }, (_, index) => words.slice(index * 3, index * 3 + 3) as [place: number, start: number, end: number])
  const own = places.filter(([, from, to]) => from < end && to > start)
  if (own.length === 0) return ''
  const next = places.find(([place]) => place > own.at(-1)![0])?.[0] ?? signs.length
  const [ahead, piece] = [signs.slice(0, own[0]![0]).join(''), signs.slice(own[0]![0], next).join('').replace(/<\/speak>|<mark[^<>]*>/gu, '')]
  return `${ahead.slice(lastTags(ahead, /^<(?!speak|mark|\/)/u))}${piece.slice(0, lastTags(piece, /^<(?!\/)/u))}`.trim()
}

/** Where the tags of a kind begin that a markup ends with; white space does not count. */
function lastTags(markup: string, kind: RegExp): number {
  let end = markup.length
  for (;;) {
    const rest = markup.slice(0, end).trimEnd()
    const start = rest.endsWith('>') ? rest.lastIndexOf('<') : -1
    if (start < 0 || !kind.test(rest.slice(start))) return end
    end = start
  }
}
