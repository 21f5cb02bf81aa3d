import { lookup } from '../lookup'
import { madeOnce } from '../made-once'
import { primaryLanguage } from './abbreviations'
import { continues, dashBeforeSpeech, opensSpeechWithDash } from './sentence-ends'

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
 * and ordinals, those within a quotation and who says it, and those before a continuation in lower case.
 */
export function sentenceSpans(text: string, language: string): TextSpan[] {
  const spans: TextSpan[] = []
  for (const raw of segments(text, language)) {
    let last = spans.at(-1)
    // The mark of a note belongs to the sentence before it, and so does a quotation mark that closes behind a space (« Halte ! » dit-il).
    const mark = last === undefined ? 0 : (last.end === raw.start ? noteMark : closedBehind).exec(text.slice(raw.start, raw.start + 24))?.[0].length ?? 0
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
  const ends = endsMissed(language)
  let from = 0
  while (from < text.length) {
    const to = feedEnd(text, from)
    let start = from
    for (const { index, segment } of segmenter.segment(text.slice(from, to))) {
      for (const length of endsWithin(segment, ends)) {
        const end = from + index + length
        yield { start, end }
        start = end
      }
      const end = from + index + segment.length - (openedBehind.exec(segment)?.groups!['opening']!.length ?? 0)
      if (start < end) yield { start, end }
      start = Math.max(start, end)
    }
    if (start < to) yield { start, end: to }
    from = to
  }
}

/** Numbers or letters of notes in brackets: [12], [3][4], [a]. */
const notesInBrackets = '(?:\\[(?:\\p{Ll}|\\d{1,4}(?:[,–-] ?\\d{1,4})*)\\])+'
const noteMark = new RegExp(`^(?:(?:[¹²³⁰⁴-⁹]{1,4}|[*†‡]{1,3})(?=\\s|$)|${notesInBrackets})`, 'u')
const closedBehind = /^[»›”](?=\s|$)/u
/** A mark that opens what follows: without a space, the segmenter takes it for the end of what stands before: 彼は言った。「行こう。」 */
const openedBehind = /(?:[。．｡！？…][」』”’）)]*(?=[「『（《〈【〔“‘])|[.!?…。！？]["”’)」』]*(?=\[))(?<opening>[「『（《〈【〔“‘[]+)$/u

/** Ends that the segmenter takes for the middle of a sentence, in every language. */
const missed: readonly RegExp[] = [
  // The number of a note in brackets: “found.[12] Then”.
  new RegExp(`[.!?…]["”’)]*${notesInBrackets}\\s+(?=["“‘„«(]*\\p{Lu})`, 'gu'),
  // A sentence that begins with figures and goes on in lower case: “It ended. 25 years later it began.”
  /(?:\p{L}{2}|\d{3}|[\p{L}\d][”"»)’])\.["”»’]?\s+(?=\d)/gu,
]

/** Speech that opens with a dash within a paragraph: — Стой! — Он встал. */
const speechWithDash = new RegExp(`[.!?…]["”»)]*\\s+(?=${dashBeforeSpeech})`, 'gu')

const missedIn: Readonly<Record<string, readonly RegExp[]>> = {
  // The question mark of Greek.
  el: [/[;\u037e]!?["”»)]*\s+(?=[—–-]?\s?["“«(]?\p{Lu})/gu],
  // A first word without its first letters: ’s Avonds, ’t Was.
  nl: [/[.!?…]["”’)]*\s+(?=['’][st] \p{Lu})/gu],
}

/** Where sentences end within a segment, in order. */
function endsWithin(segment: string, patterns: readonly RegExp[]): number[] {
  const ends = patterns.flatMap(pattern => Array.from(segment.matchAll(pattern), mark => mark.index + mark[0].length))
  return [...new Set(ends)].sort((one, other) => one - other)
}

function endsMissed(language: string): readonly RegExp[] {
  return [...missed, ...opensSpeechWithDash(language) ? [speechWithDash] : [], ...lookup(missedIn, primaryLanguage(language)) ?? []]
}

function feedEnd(text: string, from: number): number {
  if (text.length - from <= segmenterLimit) return text.length
  const window = text.slice(from, from + segmenterLimit)
  const line = window.lastIndexOf('\n')
  if (line > 0) return from + line + 1
  const sentence = [...window.matchAll(/[.!?。！？]["”’')\]]*\s+/gu)].at(-1)
  if (sentence !== undefined) return from + sentence.index + sentence[0].length
  const space = window.lastIndexOf(' ')
  if (space > 0) return from + space + 1
  return betweenSigns(text, from + segmenterLimit)
}

/** This place of a text, or the one before where it is within a sign of two code units. */
export function betweenSigns(text: string, at: number): number {
  const code = text.charCodeAt(at)
  return code >= 0xdc00 && code <= 0xdfff ? at - 1 : at
}

const segmenterFor = madeOnce(language => new Intl.Segmenter(language, { granularity: 'sentence' }))

/** The span without the white space at its ends. */
export function trimSpan(text: string, span: TextSpan): TextSpan {
  let { start, end } = span
  while (start < end && /\s/u.test(text[start]!)) start += 1
  while (end > start && /\s/u.test(text[end - 1]!)) end -= 1
  return { start, end }
}
