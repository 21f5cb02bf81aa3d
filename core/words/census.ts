import { primaryLanguage } from '../language/abbreviations'
import { alphabets, hasForeignLetter, isSpeltOut } from '../language/alphabets'
import { numberWords } from '../language/numbers'
import { isAlsoWord, romanValue } from '../language/roman'
import { sentenceSpans, trimSpan, type TextSpan } from '../language/sentences'
import { countWords, isSpeakable } from '../manuscript/manuscript'
import { spokenOf } from '../score/compile'
import { openSpans, spokenBetween, type Group, type SpokenForm } from '../score/spoken'
import { matchesOf } from '../matches'
import { writtenText } from '../script/content'
import type { Part, Passage } from '../script/script'
import { count } from '../tally'
import { ofWording, type HitOff, type RuleSet } from '../style/rule'
import type { WordFinder } from './find-words'
import { isKnown, stem } from './inflections'
import type { KnownWords } from './known-words'
import { readingsOf, readingsText, type Reading } from './heteronyms'
import { partOfSpeechAt, type PartOfSpeech } from './part-of-speech'

// Every word and token of a script that a voice may get wrong, found before the first minute is made.

export const censusReasons = ['spelt-out', 'unknown-word', 'said-otherwise', 'heteronym', 'acronym', 'number', 'date', 'roman-numeral', 'symbol', 'foreign', 'rule-in-doubt', 'long-sentence', 'all-capitals', 'said-by-rule'] as const
export type CensusReason = (typeof censusReasons)[number]

/** How much each is in doubt; with the count it makes the order. This product's own values. */
const doubt: Readonly<Record<CensusReason, number>> = {
  // What is spelt out by codes comes first, however rare.
  'spelt-out': 1_000, 'unknown-word': 0.6, 'said-otherwise': 0.75, 'heteronym': 0.3, 'acronym': 0.7, 'number': 0.5, 'date': 0.6, 'roman-numeral': 0.9, 'symbol': 0.8, 'foreign': 0.8, 'rule-in-doubt': 0.7, 'long-sentence': 0.2, 'all-capitals': 0.5,
  // It is decided, and listed behind all else.
  'said-by-rule': 0.000_001,
}

export interface CensusPlace {
  readonly partId: string
  readonly passageId: string
  /** In the written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
}

export interface CensusEntry {
  /** What its places have in common: with the reason it names the entry, whatever is written later. */
  readonly key: string
  /** The bare token, as it is written most often first. */
  readonly text: string
  readonly reason: CensusReason
  readonly places: readonly CensusPlace[]
  /** What could be said, or what must be decided; null where nothing can be proposed. */
  readonly proposal: string | null
  /** Of a heteronym, what it is at all of its places; null where that is not told. */
  readonly partOfSpeech: PartOfSpeech | null
  /** How its first place is said now, as text. */
  readonly spokenAs: string
  /** Of a heteronym, the sentence of its first place up to its end, as it is spoken: what a voice needs of it to choose a reading. */
  readonly spokenUpTo: string
}

/** What is asked of a dictionary of one language. */
export interface Dictionary {
  /** Of a word in lower case, as it is. */
  readonly has: (word: string) => boolean
  readonly language: string
}

export interface CensusOptions {
  readonly language: string
  /** Words that are in none are not judged without one, nor where the text is in another language. */
  readonly dictionary: Dictionary | null
  /** What it speaks for is settled. */
  readonly findWords?: WordFinder
  /** What dictionaries and the voice know about the words of the text, in its language; not judged without. */
  readonly known?: KnownWords | null
  /** What they say for certain is decided; years, dates in figures and what a rule is not sure of are in doubt all the same. */
  readonly rules?: RuleSet
  readonly off?: (passage: Passage) => readonly HitOff[]
  readonly longestSentence?: number
  /** Spoken forms of passages by their ids, for the same text, words and rules: what is found in it is not made again, what is made is put in. */
  readonly forms?: Map<string, SpokenForm>
}

const longest = 40
const longestKey = 300

interface CensusFacts extends Omit<CensusOptions, 'known'> {
  /** Only these words are looked at. */
  readonly only?: ReadonlySet<string>
  readonly known: { readonly unknown: ReadonlySet<string> | null, readonly otherwise: ReadonlyMap<string, string>, readonly spelt: ReadonlySet<string> } | null
}

function factsOf({ known, ...options }: CensusOptions): CensusFacts {
  if (known === undefined || known === null) return { ...options, known: null }
  return { ...options, known: { unknown: known.unknown === null ? null : new Set(known.unknown), otherwise: new Map(known.otherwise.map(({ word, expected }) => [word, expected])), spelt: new Set(known.spelt) } }
}

/** What the rules have decided is no doubt that is open. */
export function isDecided({ reason }: Pick<CensusEntry, 'reason'>): boolean {
  return reason === 'said-by-rule'
}

/** Lists what is in doubt, what hurts most first. */
export function census(parts: readonly Part[], options: CensusOptions): CensusEntry[] {
  return taken(parts, options, factsOf(options))
}

function taken(parts: readonly Part[], options: CensusOptions, facts: CensusFacts): CensusEntry[] {
  const groups = new Map<string, Pick<CensusEntry, 'key' | 'reason' | 'proposal' | 'partOfSpeech' | 'spokenAs' | 'spokenUpTo'> & { texts: Map<string, number>, places: CensusPlace[] }>()
  /** Words, by language, that nothing is to be said about wherever they stand. */
  const harmless = new Map<string, Set<string>>()
  const rules = options.rules === undefined ? {} : { rules: ofWording(options.rules) }
  for (const part of parts) {
    if (!part.included) continue
    for (const passage of part.passages) {
      const form = options.forms?.get(passage.id) ?? spokenOf(passage, { ...options, ...rules, partLabel: part.label })
      options.forms?.set(passage.id, form)
      // Single words need no sentences.
      const sentences = facts.only === undefined ? sentenceSpans(writtenText(passage.content), passage.language ?? options.language) : []
      for (const { start, end, reason, key, text, proposal, partOfSpeech = null } of doubtsIn(passage, form, sentences, facts, harmless)) {
        const group = groups.get(`${reason} ${key}`) ?? {
          key, reason, texts: new Map<string, number>(), places: [], proposal, partOfSpeech, spokenAs: spokenBetween(form, start, end), spokenUpTo: reason === 'heteronym' ? spokenBetween(form, sentences.find(span => span.end > start)?.start ?? 0, end) : '',
        }
        count(group.texts, text)
        group.places.push({ partId: part.id, passageId: passage.id, start, end })
        groups.set(`${reason} ${key}`, group)
      }
    }
  }
  return inOrder([...groups.values()].map(({ texts, ...entry }): CensusEntry => ({ ...entry, text: [...texts].sort((a, b) => b[1] - a[1] || a[0].length - b[0].length)[0]![0] })))
}

function inOrder(entries: readonly CensusEntry[]): CensusEntry[] {
  return [...entries].sort((a, b) => weight(b) - weight(a) || (a.text < b.text ? -1 : 1))
}

/** What is known about words decides these. */
const reasonsOfKnown: ReadonlySet<CensusReason> = new Set(['said-otherwise', 'spelt-out', 'unknown-word'])

/** A census that was taken without `known`, with it: only such words are looked at again, and the passages that have them. */
export function withKnown(entries: readonly CensusEntry[], parts: readonly Part[], options: CensusOptions): CensusEntry[] {
  const facts = factsOf(options)
  const { known } = facts
  if (known === null) return [...entries]
  const words = new Set([...known.unknown ?? [], ...known.otherwise.keys(), ...known.spelt])
  const isAffected = ({ content }: Passage): boolean => hasOne(writtenText(content), words)
  const affected = parts.map(part => ({ ...part, passages: words.size === 0 ? [] : part.passages.filter(isAffected) }))
  const texts = new Map(affected.flatMap(part => part.passages.map(({ id, content }) => [id, writtenText(content)])))
  const isAgain = ({ passageId, start, end }: CensusPlace): boolean => hasOne(texts.get(passageId)?.slice(start, end) ?? '', words)
  const merged = new Map<string, CensusEntry>()
  for (const entry of entries) {
    const places = reasonsOfKnown.has(entry.reason) ? entry.places.filter(place => !isAgain(place)) : entry.places
    if (places.length > 0) merged.set(`${entry.reason} ${entry.key}`, { ...entry, places })
  }
  for (const entry of taken(affected, options, { ...facts, only: words })) {
    if (!reasonsOfKnown.has(entry.reason)) continue
    const earlier = merged.get(`${entry.reason} ${entry.key}`)
    merged.set(`${entry.reason} ${entry.key}`, earlier === undefined ? entry : { ...earlier, places: [...earlier.places, ...entry.places] })
  }
  return inOrder([...merged.values()])
}

const hasOne = (text: string, words: ReadonlySet<string>): boolean => (text.match(/[\p{L}\p{M}]+/gu) ?? []).some(word => words.has(word))

function weight({ reason, places }: CensusEntry): number {
  return doubt[reason] * Math.sqrt(places.length)
}

interface Doubt {
  readonly start: number
  readonly end: number
  readonly reason: CensusReason
  /** What its places are grouped by. */
  readonly key: string
  readonly text: string
  readonly proposal: string | null
  readonly partOfSpeech?: PartOfSpeech | null
}

const months = 'January|February|March|April|May|June|July|August|September|October|November|December|Jan|Feb|Mar|Apr|Jun|Jul|Aug|Sept?|Oct|Nov|Dec'
/** Alternatives of what is looked at, and what a text must have for each to be tried: most texts have little of it. */
const alternatives: readonly (readonly [pattern: string, needs: RegExp])[] = [
  // Addresses of the web and of mail.
  ['(?<address>(?:https?://|www\\.)\\S*[\\p{L}\\p{N}/]|[\\p{L}\\p{N}._%+-]+@[\\p{L}\\p{N}-]+(?:\\.[\\p{L}\\p{N}-]+)+|[\\p{L}\\p{N}-]+(?:\\.[\\p{L}\\p{N}-]+)+/\\S*[\\p{L}\\p{N}/])', /[@/]|www\./u],
  // Dates: in figures, and with the name of a month.
  [`(?<date>\\d{4}-\\d{2}-\\d{2}|\\d{1,2}[./-]\\d{1,2}[./-](?:\\d{4}|\\d{2})|\\d{1,2}(?:st|nd|rd|th)? (?:of )?(?:${months})\\b\\.?(?:,? \\d{4})?|(?:${months})\\.? \\d{1,2}(?:st|nd|rd|th)?\\b(?:, \\d{4})?)`, /\d/u],
  ['(?<mixed>[\\p{L}]*\\d[\\p{L}\\d]*(?:[.,:/–-]\\d[\\p{L}\\d]*)*)', /\d/u],
  ['(?<dotted>\\p{Lu}\\.(?:\\p{Lu}\\.)+)', /\p{Lu}\.\p{Lu}/u],
  ['(?<word>[\\p{L}\\p{M}]+(?:[’\'][\\p{L}\\p{M}]+)*)', /\p{L}/u],
  ['(?<symbol>[\\p{S}\\p{Extended_Pictographic}§¶†‡@#%&*/\\\\_•‰]\\ufe0f?)', /[^\p{L}\p{M}\s]/u],
]
const tokens = new Map<string, RegExp>()

function tokenOf(text: string): RegExp {
  const needed = alternatives.filter(([, needs]) => needs.test(text)).map(([pattern]) => pattern).join('|')
  let token = tokens.get(needed)
  if (token === undefined) tokens.set(needed, token = new RegExp(needed === '' ? '(?!)' : needed, 'gu'))
  return token
}

function* doubtsIn(passage: Passage, form: SpokenForm, sentences: readonly TextSpan[], options: CensusFacts, harmlessIn: Map<string, Set<string>>): Generator<Doubt> {
  const text = writtenText(passage.content)
  const language = passage.language ?? options.language
  const harmless = harmlessIn.get(language) ?? new Set<string>()
  harmlessIn.set(language, harmless)
  const ruled = form.groups.filter(group => group.by?.every(cause => 'rule' in cause))
  const isRuled = (start: number, end: number): boolean => ruled.some(({ written }) => written[0] < end && written[1] > start)
  /** Whether rules have said all of a token: of 2008/09 or 555-1234 they may find the figures and leave what parts them. */
  const isAllRuled = (start: number, end: number): boolean => {
    let at = start
    for (const { written } of ruled) if (written[0] <= at && written[1] > at) at = written[1]
    return at >= end
  }
  const open = openSpans(form)
  const isOpen = (start: number, end: number): boolean => open.some(span => span.start <= start && span.end >= end)
  const { only } = options
  for (const span of sentences) {
    const { start, end } = trimSpan(text, span)
    const sentence = text.slice(start, end)
    // A word and its space have two signs at least.
    if (sentence.length > 2 * (options.longestSentence ?? longest) && countWords(sentence) > (options.longestSentence ?? longest)) yield { start, end, reason: 'long-sentence', key: `${passage.id} ${start}`, text: sentence, proposal: `${countWords(sentence)} words: divide it.` }
  }
  const capitals = capitalRuns(text)
  if (only === undefined) for (const { start, end } of capitals) yield { start, end, reason: 'all-capitals', key: text.slice(start, end), text: text.slice(start, end), proposal: 'Write it in small letters, or say how it is meant.' }
  /** What is listed though rules have said it. */
  const listed: TextSpan[] = []
  let previous = ''
  for (const match of matchesOf(tokenOf(text), text)) {
    if (harmless.has(match[0])) {
      previous = match[0]
      continue
    }
    const { index: start, groups: { address, date, mixed, dotted, word, symbol } = {} } = match
    const end = start + match[0].length
    const before = previous
    if (word !== undefined) previous = word
    if (only !== undefined && !hasOne(word ?? '', only)) continue
    if (!isOpen(start, end) || capitals.some(run => run.start <= start && run.end >= end)) continue
    const found = (reason: CensusReason, proposal: string | null, key = match[0]): Doubt => ({ start, end, reason, key, text: match[0], proposal })
    // What a rule says in one way only is settled: a year or a date in figures may be meant otherwise.
    if (mixed !== undefined && !/\p{L}/u.test(mixed) && isRuled(start, end) && !isAllRuled(start, end)) {
      yield found('number', null)
      listed.push({ start, end })
      continue
    }
    if (isRuled(start, end) && (date === undefined ? !/^[12]\d{3}$/u.test(match[0]) : /\p{L}/u.test(date) || /^\d{4}/u.test(date))) continue
    if (isRuled(start, end)) listed.push({ start, end })
    if (address !== undefined) {
      yield found('symbol', null)
    } else if (date !== undefined) {
      // A day and a month in words can be said in one way only.
      if (/^\d/u.test(date) && !/\p{L}/u.test(date.replace(/^\d+(?:st|nd|rd|th)/u, '')) || /\d{4}$/u.test(date)) yield found('date', null)
    } else if (mixed !== undefined) {
      if (isAmbiguous(mixed)) yield found('number', yearProposal(mixed, language))
    } else if (dotted !== undefined) {
      yield found('acronym', `letters: ${dotted.replace(/\./gu, ' ').trim()}`)
    } else if (symbol !== undefined) {
      yield found('symbol', null)
    } else if (word !== undefined) {
      const doubted = wordDoubt(word, before, text, [start, end], language, options)
      if (doubted === null && /^\p{Ll}+$/u.test(word) && readingsOf(word, language) === null && !/[’']/u.test(text[end] ?? '')) harmless.add(word)
      if (doubted !== null) yield { start, end, text: word, ...doubted }
    }
  }
  if (only === undefined) yield* ruledIn(text, form, ruled, listed)
}

/** What rules have made, each piece of the text once: decided, or in doubt where the rule was not sure. */
function* ruledIn(text: string, form: SpokenForm, ruled: readonly Group[], listed: readonly TextSpan[]): Generator<Doubt> {
  const pieces: { start: number, end: number, spoken: [number, number], isWeak: boolean }[] = []
  for (const { written: [start, end], spoken: [from, to], by = [] } of ruled) {
    const last = pieces.at(-1)
    const isWeak = by.some(cause => 'rule' in cause && cause.weak === true)
    if (last !== undefined && last.end >= start && /\S$/u.test(text.slice(last.start, last.end))) pieces[pieces.length - 1] = { ...last, end, spoken: [last.spoken[0], to], isWeak: last.isWeak || isWeak }
    else pieces.push({ start, end, spoken: [from, to], isWeak })
  }
  for (const { spoken, isWeak, ...piece } of pieces) {
    const { start, end } = trimSpan(text, piece)
    const [written, said] = [text.slice(start, end), form.text.slice(...spoken).replace(/\s+/gu, ' ').trim()]
    // One dash for two is nothing that is said.
    if (said === written || !isSpeakable(written) && !isSpeakable(said) || listed.some(span => span.start < end && span.end > start)) continue
    yield { start, end, reason: isWeak ? 'rule-in-doubt' : 'said-by-rule', key: `${written} → ${said}`.slice(0, longestKey), text: written, proposal: said === '' ? 'a rule leaves it unspoken' : `said as ${said}` }
  }
}

/** Three and more words in a row in capitals are shouted, not abbreviated. */
function capitalRuns(text: string): TextSpan[] {
  if (!/\p{Lu}{2}/u.test(text)) return []
  return [...text.matchAll(/(?<![\p{L}\p{N}])\p{Lu}{2,}(?:[^\p{L}\p{N}]+\p{Lu}+(?![\p{Ll}]))*[^\p{L}\p{N}]+\p{Lu}{2,}(?![\p{L}\p{N}])/gu)]
    .filter(match => match[0].split(/[^\p{L}]+/u).length >= 3 && match[0].split(/[^\p{L}]+/u).some(word => word.length > 3))
    .map(match => ({ start: match.index, end: match.index + match[0].length }))
}

/** Years, ranges, codes, times, leading noughts; not plain numbers, sums with thousands parted, decimals, or ordinals. */
function isAmbiguous(text: string): boolean {
  if (/^\d{1,3}(?:st|nd|rd|th)$/u.test(text)) return false
  if (/^\d{1,3}$/u.test(text)) return text.length > 1 && text.startsWith('0')
  if (/^\d{1,3}(?:,\d{3})+(?:\.\d+)?$/u.test(text)) return false
  return !/^\d+\.\d+$/u.test(text)
}

/** Of four figures, how they are said as a year and as a number. */
function yearProposal(text: string, language: string): string | null {
  const words = numberWords(language)
  return words === null || !/^[1-9]\d{3}$/u.test(text) ? null : `as a number: ${words.cardinal(text)}; or as a year`
}

type Doubted = Pick<Doubt, 'reason' | 'key' | 'proposal' | 'partOfSpeech'> | null

/** Signs of units, which are said by their names. */
const units = new Set(['kg', 'g', 'mg', 't', 'km', 'm', 'cm', 'mm', 'ha', 'l', 'ml', 'cl', 'dl', 'h', 'min', 's', 'ms', 'W', 'kW', 'V', 'A', 'Hz', 'kHz', 'MHz', 'GHz', 'Pa', 'hPa', 'K', 'J', 'kJ', 'N', 'ft', 'lb', 'lbs', 'oz', 'mph', 'km/h'])

function wordDoubt(word: string, before: string, text: string, [start, end]: readonly [start: number, end: number], language: string, { dictionary, known, language: own }: CensusFacts): Doubted {
  const letters = word.replace(/[’']\p{Ll}{1,2}$/u, '')
  const isPart = /[’']/u.test(text[end] ?? '')
  const value = romanValue(letters)
  if (value !== null && !isAlsoWord(letters) && (letters.length > 1 || /^\p{Lu}/u.test(before) || /^(?:chapter|part|book|volume|act|scene|hive|page|no|table|section|item|type)$/iu.test(before))) {
    return { reason: 'roman-numeral', key: letters, proposal: romanProposal(value, language) }
  }
  if (/^\p{Lu}{2,}s?$/u.test(letters)) return { reason: 'acronym', key: letters.replace(/s$/u, ''), proposal: acronymProposal(letters) }
  const lower = letters.toLowerCase().normalize('NFC')
  const readings = readingsOf(letters, language)
  if (readings !== null) return heteronymDoubt(lower, readings, partOfSpeechAt(text, start, start + letters.length, language))
  const primary = primaryLanguage(language)
  const isLatin = alphabets[primary] !== undefined || primary === 'en'
  if (isLatin && isSpeltOut(letters) || language === own && known?.spelt.has(letters) === true) return { reason: 'spelt-out', key: lower, proposal: 'The voice spells it out: say how it sounds, or write it in other words.' }
  if (hasForeignLetter(letters, primary)) return { reason: 'foreign', key: stem(lower), proposal: null }
  const otherwise = language === own && !isPart ? known?.otherwise.get(letters) : undefined
  if (otherwise !== undefined) return { reason: 'said-otherwise', key: lower, proposal: `the dictionary says /${otherwise}/` }
  if (language === own && known?.unknown !== undefined && known.unknown !== null) {
    return letters.split(/[’']/u).some(piece => known.unknown!.has(piece)) ? { reason: 'unknown-word', key: stem(lower), proposal: null } : null
  }
  if (dictionary === null || isPart || primaryLanguage(language) !== dictionary.language) return null
  const { has } = dictionary
  if (units.has(letters)) return null
  if (/[^\u0000-\u007f’]/u.test(lower)) return isKnown(lower.normalize('NFD').replace(/\p{M}/gu, ''), has) ? null : { reason: 'foreign', key: stem(lower), proposal: null }
  return lower.length < 2 || isKnown(lower, has) ? null : { reason: 'unknown-word', key: stem(lower), proposal: null }
}

/** A word with several readings, by what it is where it stands; null where it has its usual one. */
function heteronymDoubt(word: string, readings: readonly Reading[], part: PartOfSpeech | null): Doubted {
  if (readings.some(({ of, usual }) => usual === true && part !== null && of.includes(part))) return null
  // A bass is a noun, whether it swims or sings.
  const told = readings.some(({ of }) => of.join(' ') !== readings[0]!.of.join(' ')) ? part : null
  return { reason: 'heteronym', key: told === null ? word : `${word} ${told}`, proposal: readingsText(readings), partOfSpeech: told }
}

function acronymProposal(letters: string): string {
  const bare = letters.replace(/s$/u, '')
  const canBeSaid = bare.length > 3 && /[AEIOU]/u.test(bare) && !/[BCDFGHJKLMNPQRSTVWXZ]{3}/u.test(bare)
  return canBeSaid ? `a word: ${bare.charAt(0)}${bare.slice(1).toLowerCase()}; or letters: ${[...bare].join(' ')}` : `letters: ${[...bare].join(' ')}`
}

function romanProposal(value: number, language: string): string {
  const words = numberWords(language)
  return words === null ? String(value) : `${words.cardinal(String(value))}; or the ${words.ordinal(String(value))}`
}

/** Whether a decision about an entry, by its reason and key, is about this one: about a heteronym also by the word alone, whatever it is. */
export function isAbout(decision: { readonly reason: string, readonly key: string }, { reason, key, partOfSpeech }: Pick<CensusEntry, 'reason' | 'key' | 'partOfSpeech'>): boolean {
  return decision.reason === reason && (decision.key === key || partOfSpeech !== null && decision.key === key.slice(0, -partOfSpeech.length - 1))
}

/** What a voice is asked to read, to learn how it says an entry: a heteronym with what stands before it in its sentence. */
export function toBeRead({ reason, spokenAs, spokenUpTo }: Pick<CensusEntry, 'reason' | 'spokenAs' | 'spokenUpTo'>): string {
  return (reason === 'heteronym' ? spokenUpTo : spokenAs).replace(/\s+/gu, ' ').trim().slice(-300)
}

/** The reading of the entry in what the voice has read. */
export function readingIn({ reason }: Pick<CensusEntry, 'reason'>, ipa: string): string {
  return reason === 'heteronym' ? ipa.trim().split(/\s+/u).at(-1) ?? ipa : ipa
}

/** A place with the text around it, for a list: whole words, at most so many characters on each side. */
export function contextOf(text: string, { start, end }: TextSpan, characters = 40): { readonly before: string, readonly written: string, readonly after: string } {
  const [from, to] = [Math.max(0, start - characters), Math.min(text.length, end + characters)]
  const before = from === 0 ? text.slice(0, start) : `… ${text.slice(from, start).replace(/^\S*\s+/u, '')}`
  const after = to === text.length ? text.slice(end) : `${text.slice(end, to).replace(/\s+\S*$/u, '')} …`
  return { before, written: text.slice(start, end), after }
}

/** The passages of parts by their ids. */
export function passagesById(parts: readonly Part[]): Map<string, Passage> {
  return new Map(parts.flatMap(part => part.passages.map(passage => [passage.id, passage] as const)))
}
