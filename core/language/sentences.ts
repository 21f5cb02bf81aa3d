import { abbreviations, openingWords } from './abbreviations'

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
    const span = trimSpan(text, raw)
    if (span.start === span.end) continue
    const last = spans.at(-1)
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
      yield { start: from + index, end: from + index + segment.length }
    }
    from = to
  }
}

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
  const token = /[^\s("“‘„«[]+$/u.exec(before)?.[0] ?? ''
  const nextWord = /^["“‘„«([]*([\p{L}\p{M}’']+)/u.exec(after)?.[1] ?? ''
  const known = abbreviations(language)
  const word = token.toLowerCase()
  if (known.beforeName.has(word)) return true
  if (known.beforeNumber.has(word)) return /^[\d\p{Lu}IVX]/u.test(after) && /^(?:\d|[IVXLC]+\b)/u.test(after)
  if (/^\d{1,2}\.$/u.test(token)) return monthNames(language).has(nextWord.toLowerCase())
  const ambiguous = known.other.has(word) || /^(?:\p{Lu}\.)+$/u.test(token) || /^(?:\p{L}\.){2,}$/u.test(token)
  return ambiguous && !openingWords(language).has(nextWord) && /^["“‘„«([]*[\p{L}\d]/u.test(after)
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
