import { sentenceSpans } from '#core/language/sentences'
import { hitsOff } from '#core/script/decisions'
import { checkNarration, type NarratorFinding } from '#core/style/narrator-check'
import { prepareRules, type Rule } from '#core/style/rule'
import { placesOfRules, textsOf, viewOfPlace, type RuleHitView, type RulePlace } from '#core/style/rule-hits'
import { ProblemError } from '#core/problem'
import { census, contextOf, type CensusEntry, type CensusPlace, type Dictionary } from '#core/words/census'
import { wordFinder } from '#core/words/find-words'
import type { WordsMaterial } from '#shared/api'
import { primaryLanguage } from '#core/language/abbreviations'

// What is computed over a whole script without holding the page up: the hits of rules, the census, the narrator check.

/** A question to the worker. */
export type WordsQuestion =
  | { readonly ask: 'open', readonly editionId: string }
  | { readonly ask: 'rules', readonly rules: readonly Rule[], readonly show: string | null, readonly most: number }
  | { readonly ask: 'census' }
  | { readonly ask: 'narrator', readonly longest: number }
  | { readonly ask: 'decisions' }
  | { readonly ask: 'passage', readonly passageId: string }

export interface RulesAnswer {
  /** Of every rule that acts somewhere. */
  readonly counts: Readonly<Record<string, number>>
  readonly hits: readonly RuleHitView[]
  /** Places where the rule that is shown is switched off, by the ids of these decisions. */
  readonly off: readonly { readonly id: string, readonly before: string, readonly written: string, readonly after: string }[]
}

/** An entry with the contexts of its places. */
export interface CensusView extends CensusEntry {
  /** Of its first place. */
  readonly sentence: string
  /** Of all its places; those that are sent may be fewer. */
  readonly count: number
  readonly contexts: readonly { readonly partLabel: string, readonly before: string, readonly written: string, readonly after: string }[]
}

export interface NarratorView extends NarratorFinding {
  readonly partId: string
  readonly partLabel: string
  readonly before: string
  readonly written: string
  readonly after: string
}

export type WordsAnswer =
  | { readonly id: number, readonly done: boolean, readonly value: unknown }
  | { readonly id: number, readonly done: true, readonly problem: string }

/** Passages up to this many characters give the first entries of a census. */
const firstCharacters = 40_000
/** Contexts that are sent of one entry. */
const mostContexts = 200

let material: WordsMaterial | null = null
let texts = new Map<string, string>()
let labels = new Map<string, string>()
let dictionary: Promise<Dictionary | null> | null = null

const scope = self as unknown as { onmessage: ((event: MessageEvent<{ id: number, question: WordsQuestion }>) => void) | null, postMessage: (answer: WordsAnswer) => void }

scope.onmessage = ({ data: { id, question } }) => {
  void answer(question, value => scope.postMessage({ id, done: false, value }))
    .then(value => scope.postMessage({ id, done: true, value }))
    .catch((error: unknown) => scope.postMessage({ id, done: true, problem: error instanceof ProblemError ? error.problem.message : error instanceof Error ? error.message : String(error) }))
}

async function answer(question: WordsQuestion, partly: (value: unknown) => void): Promise<unknown> {
  switch (question.ask) {
    case 'open': return open(question.editionId)
    case 'rules': return rulesAnswer(question)
    case 'census': return takeCensus(partly)
    case 'narrator': return narrator(question.longest)
    case 'decisions': return material!.decisions
    case 'passage': return material!.parts.flatMap(part => part.passages).find(passage => passage.id === question.passageId)
  }
}

async function open(editionId: string): Promise<void> {
  const response = await fetch(`/api/editions/${editionId}/words/material`)
  if (!response.ok) throw new Error('The script could not be loaded. Try again in a moment.')
  material = await response.json() as WordsMaterial
  texts = textsOf(material.parts)
  labels = new Map(material.parts.map(part => [part.id, part.label]))
  if (primaryLanguage(material.language) === 'en') dictionary ??= fetch('/api/dictionary').then(async each => english(await each.text()))
}

function english(text: string): Dictionary {
  const words = new Set(text.split('\n'))
  return { has: word => words.has(word), language: 'en' }
}

function context(rules: readonly Rule[]) {
  const { language, wordbooks, decisions } = material!
  return { language, findWords: wordFinder(wordbooks), rules: prepareRules(rules), off: hitsOff(decisions.map(({ decision }) => decision)) }
}

function rulesAnswer({ rules, show, most }: Extract<WordsQuestion, { ask: 'rules' }>): RulesAnswer {
  const places = placesOfRules(material!.parts, context(rules))
  const shown: readonly RulePlace[] = show === null ? [] : places.get(show) ?? []
  const off = material!.decisions.flatMap(({ id, decision }) => decision.about === 'rule' && decision.rule === show ? [{ id, before: decision.at.before, written: decision.at.quote.slice(0, 60), after: decision.at.after }] : [])
  return { off, counts: Object.fromEntries([...places].map(([rule, own]) => [rule, own.length])), hits: shown.slice(0, most).map(place => viewOfPlace(place, texts.get(place.passageId)!)) }
}

async function takeCensus(partly: (value: unknown) => void): Promise<CensusView[]> {
  const { language, parts, rules } = material!
  const options = { ...context(rules), language, dictionary: primaryLanguage(language) === 'en' ? await dictionary : null }
  let left = firstCharacters
  const first = parts.flatMap(part => {
    const passages = part.passages.filter(passage => {
      left -= texts.get(passage.id)!.length
      return left > 0
    })
    return passages.length === 0 ? [] : [{ ...part, passages }]
  })
  if (left <= 0) partly(views(census(first, options)))
  return views(census(parts, options))
}

const views = (entries: readonly CensusEntry[]): CensusView[] => entries.map(entry => ({
  ...entry, sentence: sentenceAt(entry.places[0]!), count: entry.places.length, places: entry.places.slice(0, mostContexts), contexts: entry.places.slice(0, mostContexts).map(place => ({ partLabel: labels.get(place.partId)!, ...contextOf(texts.get(place.passageId)!, place) })),
}))

function sentenceAt({ passageId, start }: CensusPlace): string {
  const text = texts.get(passageId)!
  const span = sentenceSpans(text, material!.language).find(each => each.end > start)
  return span === undefined ? text : text.slice(span.start, span.end).trim()
}

function narrator(longest: number): NarratorView[] {
  return material!.parts.filter(part => part.included).flatMap(part => checkNarration(part.passages, material!.language, longest).map(finding => ({ ...finding, partId: part.id, partLabel: part.label, ...contextOf(texts.get(finding.passageId)!, finding) })))
}
