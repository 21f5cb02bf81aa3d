import { abbreviations, openingWords, primaryLanguage } from './abbreviations'
import { countedNouns } from './german-nouns'
import { ruleWords } from './words'

/** A span of a text in UTF-16 code units; `end` is exclusive. */
export interface TextSpan {
  readonly start: number
  readonly end: number
}

/** The segmenter's time grows with the square of a string's length, so longer text is fed in pieces. */
const segmenterLimit = 4_000

/**
 * The sentences of a passage, without the white space between them. Boundaries are those of Unicode
 * UAX #29 as the platform's segmenter finds them, less those after abbreviations, initials, list markers
 * and ordinal days, and those before a continuation in lower case or after a dash.
 */
export function sentenceSpans(text: string, language: string): TextSpan[] {
  const spans: TextSpan[] = []
  for (const raw of segments(text, language)) {
    let last = spans.at(-1)
    // The mark of a note belongs to the sentence before it, and so does a quotation mark that closes behind a space (« Halte ! » dit-il).
    const mark = last === undefined ? 0 : (last.end === raw.start ? noteMark : closedBehind).exec(text.slice(raw.start, raw.start + 8))?.[0].length ?? 0
    if (mark > 0) {
      last = { start: last!.start, end: raw.start + mark }
      spans[spans.length - 1] = last
    }
    const span = trimSpan(text, { start: raw.start + mark, end: raw.end })
    if (span.start === span.end) continue
    if (last !== undefined && continues(text, last, span, language)) {
      spans[spans.length - 1] = { start: last.start, end: span.end }
    } else {
      spans.push(span)
    }
  }
  return spans
}

function* segments(text: string, language: string): Generator<TextSpan> {
  const segmenter = segmenterFor(language)
  let from = 0
  while (from < text.length) {
    const to = feedEnd(text, from)
    for (const { index, segment } of segmenter.segment(text.slice(from, to))) {
      let start = from + index
      for (const mark of segment.matchAll(markedEnd)) {
        const end = from + index + mark.index + mark[0].length
        yield { start, end }
        start = end
      }
      if (start < from + index + segment.length) yield { start, end: from + index + segment.length }
    }
    from = to
  }
}

const noteMark = /^(?:[¹²³⁰⁴-⁹]{1,4}|[*†‡]{1,3})(?=\s|$)/u
const closedBehind = /^[»›”](?=\s|$)/u
/** The end of a sentence with a note's number in brackets behind it, which the segmenter takes for its middle: “found.[12] Then”. */
const markedEnd = /[.!?…]["”’)]*\[\d{1,4}\]\s+(?=["“‘„«(]*\p{Lu})/gu

function feedEnd(text: string, from: number): number {
  if (text.length - from <= segmenterLimit) return text.length
  const window = text.slice(from, from + segmenterLimit)
  const line = window.lastIndexOf('\n')
  if (line > 0) return from + line + 1
  const sentence = [...window.matchAll(/[.!?。！？]["”’')\]]*\s+/gu)].at(-1)
  if (sentence !== undefined) return from + sentence.index + sentence[0].length
  const space = window.lastIndexOf(' ')
  return from + (space > 0 ? space + 1 : segmenterLimit)
}

const segmenters = new Map<string, Intl.Segmenter>()

function segmenterFor(language: string): Intl.Segmenter {
  let segmenter = segmenters.get(language)
  if (segmenter === undefined) {
    segmenter = new Intl.Segmenter(language, { granularity: 'sentence' })
    segmenters.set(language, segmenter)
  }
  return segmenter
}

/** Whether the segmenter's boundary between two spans is none. */
function continues(text: string, left: TextSpan, right: TextSpan, language: string): boolean {
  if (text.slice(left.end, right.start).includes('\n')) return false
  const before = text.slice(Math.max(left.start, left.end - 60), left.end)
  const after = text.slice(right.start, right.start + 60)
  if (/^\p{Ll}/u.test(after) && !/[。！？]$/u.test(before)) return true
  if (/^[–—-]/u.test(after)) return true
  if (isListMarker(text.slice(left.start, left.end))) return true
  return /\.$/u.test(before) && continuesAfterPeriod(before, after, language)
}

function isListMarker(sentence: string): boolean {
  return /^\(?(?:\d{1,3}|\p{L}|[ivxlc]{1,6}|[IVXLC]{1,6})[.)]\)?$/u.test(sentence)
}

function continuesAfterPeriod(before: string, after: string, language: string): boolean {
  const token = /[^\s("“‘„«[—]+$/u.exec(before)?.[0] ?? ''
  const nextWord = /^["“‘„«([]*([\p{L}\p{M}’']+)/u.exec(after)?.[1] ?? ''
  // An abbreviation of two words: v. Chr., z. B.
  if (/^\p{L}\.$/u.test(token) && /^\p{L}{1,3}\./u.test(after)) return true
  const known = abbreviations(language)
  const word = token.toLowerCase()
  // The number of a house behind its street: Hauptstr. 5.
  if (/\p{L}str\.$/iu.test(token) && /^\d/u.test(after)) return true
  // A street ends a sentence where a saint does not.
  if (known.beforeName.has(word)) return !(word === 'st.' && openingWords(language).has(nextWord))
  if (known.beforeNumber.has(word)) return /^[\d\p{Lu}IVX]/u.test(after) && /^(?:\d|[IVXLC]+\b)/u.test(after)
  if (/^(?:(?:\d{1,3}\.?[–-])?\d{1,3}|[IVXL]+)\.$/u.test(token)) return monthNames(language).has(nextWord.toLowerCase()) || isGermanOrdinal(before, nextWord, language)
  // A date in figures with spaces: 3. 6. 2021.
  if (/\d{1,2}\. \d{1,2}\.$/u.test(before) && /^\d{4}\b/u.test(after)) return true
  // Of the plural, as Spanish writes it: EE. UU.
  if (/^(?<first>\p{Lu})\k<first>\.$/u.test(token) && /^(?<second>\p{Lu})\k<second>\./u.test(after)) return true
  const ambiguous = known.other.has(word) || /^(?:\p{Lu}\.)+$/u.test(token) || /^(?:\p{L}\.){2,}$/u.test(token)
  return ambiguous && !openingWords(language).has(nextWord) && /^["“‘„«([]*[\p{L}\d\p{Sc}]/u.test(after)
}

/** The numeral of a ruler: Friedrich I. Barbarossa, Ludwigs XIV. Hof. */
const behindGermanRuler = new RegExp(`(?<!\\p{L})(?:${ruleWords('de')!.rulers})s? [IVX]+\\.$`, 'u')

/** An ordinal behind an article, before a noun: “im 16. Jahrhundert”. Before a word that usually opens a sentence it is a day: “Heute ist der 5. Er ging.” */
function isGermanOrdinal(before: string, nextWord: string, language: string): boolean {
  return primaryLanguage(language) === 'de' && !openingWords(language).has(nextWord)
    && (behindGermanRuler.test(before) || Object.hasOwn(countedNouns, nextWord) && /(?:^|\s)(?:\d{1,3}|[IVXL]+)\.$/u.test(before) || /(?:^|\s)(?:am|vom|zum|zur|beim|im|ins|der|die|das|den|dem|des|jede[rsmn]?|diese[rsmn]?|(?:ein|sein|ihr|mein|unser)e[rsmn]?) (?:\d{1,3}|[IVXL]+)\.$/iu.test(before))
}

const months = new Map<string, ReadonlySet<string>>()

/** Month names of languages that write the day as an ordinal with a full stop (21. April). */
function monthNames(language: string): ReadonlySet<string> {
  let names = months.get(language)
  if (names === undefined) {
    const format = new Intl.DateTimeFormat(language, { day: 'numeric', month: 'long', timeZone: 'UTC' })
    names = new Set(Array.from({ length: 12 }, (_, month) => {
      const parts = format.formatToParts(new Date(Date.UTC(2001, month, 15)))
      return parts.find(part => part.type === 'month')?.value.toLowerCase() ?? ''
    }))
    months.set(language, names)
  }
  return names
}

/** The span without the white space at its ends. */
export function trimSpan(text: string, span: TextSpan): TextSpan {
  let { start, end } = span
  while (start < end && /\s/u.test(text[start]!)) start += 1
  while (end > start && /\s/u.test(text[end - 1]!)) end -= 1
  return { start, end }
}
