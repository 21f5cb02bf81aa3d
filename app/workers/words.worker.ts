import { sentenceSpans, trimSpan } from '#core/language/sentences'
import { placeOf, type Anchor } from '#core/script/anchor'
import { hitsOff } from '#core/script/decisions'
import { checkNarration, type NarratorFinding } from '#core/style/narrator-check'
import { prepareRules, type Rule } from '#core/style/rule'
import { placesOfRules, textsOf, viewOfPlace, type RuleHitView, type RulePlace } from '#core/score/rule-places'
import type { SpokenForm } from '#core/score/spoken'
import type { PassageKind } from '#core/script/script'
import { count } from '#core/tally'
import { ProblemError } from '#core/problem'
import { census, contextOf, isAbout, withKnown, type CensusEntry, type CensusPlace, type CensusReason, type Dictionary } from '#core/words/census'
import { wordFinder } from '#core/words/find-words'
import { comparedWords, type ComparedWords, type KnownWords } from '#core/words/known-words'
import type { WordsMaterial } from '#shared/api'
import { primaryLanguage } from '#core/language/abbreviations'

// What is computed over a whole script without holding the page up: the hits of rules, the census, the narrator check.

/** A question to the worker. */
export type WordsQuestion =
  | { readonly ask: 'open', readonly editionId: string }
  | { readonly ask: 'rules', readonly rules: readonly Rule[], readonly show: string | null, readonly most: number }
  /** `voice`: of the narrator; what it says is asked again when it is another. */
  | { readonly ask: 'census', readonly voice: string }
  | { readonly ask: 'places', readonly reason: CensusReason, readonly key: string, readonly most: number }
  | { readonly ask: 'narrator', readonly longest: number }
  | { readonly ask: 'dictionary' }
  | { readonly ask: 'decisions' }
  | { readonly ask: 'passage', readonly passageId: string }

export interface RulesAnswer {
  /** Passages of each kind. */
  readonly kinds: Readonly<Partial<Record<PassageKind, number>>>
  /** Of every rule that acts somewhere. */
  readonly counts: Readonly<Record<string, number>>
  readonly hits: readonly RuleHitView[]
  /** Places where the rule that is shown is switched off, by the ids of these decisions. */
  readonly off: readonly { readonly id: string, readonly before: string, readonly written: string, readonly after: string }[]
}

/** An entry as it is listed. Places that are left as they are do not count. */
export interface CensusRow extends Omit<CensusEntry, 'places'> {
  readonly count: number
  /** The context of its first place. */
  readonly example: Context
  /** The decision that leaves it as it is. */
  readonly left: string | null
}

type Context = ReturnType<typeof contextOf>

/** A place of an entry in its context. */
export interface CensusPlaceView extends CensusPlace, Context {
  readonly partLabel: string
  /** That it is in, and where that begins in its passage. */
  readonly sentence: string
  readonly sentenceAt: number
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
const firstCharacters = 12_000
/** The first entries wait so long for the dictionary, at most. */
const dictionaryMs = 150

const sleep = (ms: number): Promise<null> => new Promise(resolve => { setTimeout(() => resolve(null), ms) })

let material: WordsMaterial | null = null
let texts = new Map<string, string>()
let labels = new Map<string, string>()
let dictionary: Promise<Dictionary> | null = null
let entries: readonly CensusEntry[] = []
let editionId = ''
/** What dictionaries and the voice know, and of which words and voice. */
let lastKnown: { readonly about: string, readonly known: KnownWords } | null = null

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
    case 'census': return takeCensus(question.voice, partly)
    case 'places': return placesOf(question)
    case 'narrator': return narrator(question.longest)
    case 'decisions': return material!.decisions
    case 'dictionary': return lastKnown?.known.hasDictionary ?? true
    case 'passage': return material!.parts.flatMap(part => part.passages).find(passage => passage.id === question.passageId)
  }
}

async function open(id: string): Promise<void> {
  editionId = id
  dictionary ??= fetch('/api/dictionary').then(async each => english(await each.text()))
  const response = await fetch(`/api/editions/${editionId}/words/material`)
  if (!response.ok) throw new Error('The script could not be loaded. Try again in a moment.')
  material = await response.json() as WordsMaterial
  texts = textsOf(material.parts)
  labels = new Map(material.parts.map(part => [part.id, part.label]))
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
  const kinds = new Map<PassageKind, number>()
  for (const passage of material!.parts.flatMap(part => part.passages)) count(kinds, passage.kind)
  return { kinds: Object.fromEntries(kinds), off, counts: Object.fromEntries([...places].map(([rule, own]) => [rule, own.length])), hits: shown.slice(0, most).map(place => viewOfPlace(place, texts.get(place.passageId)!)) }
}

async function takeCensus(voice: string, partly: (value: unknown) => void): Promise<CensusRow[]> {
  const { language, parts, rules } = material!
  const options = { ...context(rules), language, forms: new Map<string, SpokenForm>() }
  const asked = primaryLanguage(language) === 'en' ? dictionary! : Promise.resolve(null)
  let left = firstCharacters
  const first = parts.flatMap(part => {
    const passages = part.passages.filter(passage => {
      left -= texts.get(passage.id)!.length
      return left > 0
    })
    return passages.length === 0 ? [] : [{ ...part, passages }]
  })
  // What needs no dictionary does not wait for it.
  if (left <= 0) partly(rowsOf(census(first, { ...options, dictionary: await Promise.race([asked, sleep(dictionaryMs)]) })))
  // The server looks while the worker does.
  const knows = knownOf(comparedWords(parts, language), language, voice)
  knows.catch(() => undefined)
  const without = { ...options, dictionary: await asked }
  entries = withKnown(census(parts, without), parts, { ...without, known: await knows })
  return rowsOf(entries)
}

/** What dictionaries and the voice know of the words of the script: asked again when there are other words, or another voice speaks. */
async function knownOf(words: ComparedWords, language: string, voice: string): Promise<KnownWords> {
  const body = JSON.stringify({ language, ...words })
  const about = `${voice} ${body}`
  if (lastKnown?.about === about) return lastKnown.known
  const response = await fetch(`/api/editions/${editionId}/words/known`, { method: 'POST', headers: { 'content-type': 'application/json' }, body })
  if (!response.ok) throw new Error('What the dictionary and the voice know of these words could not be asked. Try again in a moment.')
  const known = await response.json() as KnownWords
  lastKnown = { about, known }
  return known
}

function rowsOf(found: readonly CensusEntry[]): CensusRow[] {
  const decisions = material!.decisions.flatMap(({ id, decision }) => decision.about === 'census' ? [{ id, ...decision }] : [])
  return found.flatMap(({ places, ...entry }) => {
    const own = decisions.filter(decision => isAbout(decision, entry))
    const open = openPlaces(places, own.flatMap(({ at }) => at ?? []))
    return open.length === 0 ? [] : [{ ...entry, count: open.length, example: contextOf(texts.get(open[0]!.passageId)!, open[0]!), left: own.find(({ at }) => at === undefined)?.id ?? null }]
  })
}

/** The places that are not left as they are. */
function openPlaces(places: readonly CensusPlace[], left: readonly Anchor[]): readonly CensusPlace[] {
  if (left.length === 0) return places
  const leftAt = new Set(left.map(at => `${at.passageId} ${placeOf(at, texts.get(at.passageId) ?? '')?.[0]}`))
  return places.filter(place => !leftAt.has(`${place.passageId} ${place.start}`))
}

function placesOf({ reason, key, most }: Extract<WordsQuestion, { ask: 'places' }>): CensusPlaceView[] {
  const entry = entries.find(each => each.reason === reason && each.key === key)
  const left = material!.decisions.flatMap(({ decision }) => decision.about === 'census' && entry !== undefined && isAbout(decision, entry) ? decision.at ?? [] : [])
  return openPlaces(entry?.places ?? [], left).slice(0, most).map(place => ({ ...place, partLabel: labels.get(place.partId)!, ...sentenceOf(place), ...contextOf(texts.get(place.passageId)!, place) }))
}

function sentenceOf({ passageId, start }: CensusPlace): Pick<CensusPlaceView, 'sentence' | 'sentenceAt'> {
  const text = texts.get(passageId)!
  const span = sentenceSpans(text, material!.language).find(each => each.end > start) ?? { start: 0, end: text.length }
  const { start: from, end } = trimSpan(text, span)
  return { sentence: text.slice(from, end), sentenceAt: from }
}

function narrator(longest: number): NarratorView[] {
  return material!.parts.filter(part => part.included).flatMap(part => checkNarration(part.passages, material!.language, longest).map(finding => ({ ...finding, partId: part.id, partLabel: part.label, ...contextOf(texts.get(finding.passageId)!, finding) })))
}
