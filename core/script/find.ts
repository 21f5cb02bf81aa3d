import { compileRegExp } from '../manuscript/pattern'
import { fail } from '../problem'
import { wordsOf } from '../score/spoken'
import { directionSpans, writtenText, type Content, type DirectionSpan } from './content'
import { directionNames, valueText, withValueText } from './direction-text'
import { withValue } from './edit'
import { replaced } from './retext'

export const findPlaces = ['text', 'spoken', 'directions'] as const
/** What is looked through: the written text, what is spoken in its place (substitutes, pronunciations, words of say-as), or the values of directions. */
export type FindPlace = (typeof findPlaces)[number]

export interface FindQuery {
  readonly what: string
  readonly place: FindPlace
  readonly matchCase: boolean
  readonly wholeWord: boolean
  /** RE2 syntax: its time grows with the text only. */
  readonly isPattern: boolean
}

export interface Hit {
  /** Its place in the written text; a direction's span where the value of a direction is found. */
  readonly start: number
  readonly end: number
  /** What is found, with some of what stands around it. */
  readonly before: string
  readonly found: string
  readonly after: string
  /** The direction whose value it is in. */
  readonly directionId?: string
}

export type Finder = (content: Content, language: string) => Hit[]

/** Makes a finder. Throws a problem for a pattern that cannot be understood. */
export function finder(query: FindQuery): Finder {
  const spansIn = matcher(query)
  return (content, language) => query.place === 'text'
    ? spansIn(writtenText(content)).map(([start, end]) => ({ start, end, ...around(writtenText(content), start, end) }))
    : searched(content, query.place, language).flatMap(({ span, text }) => spansIn(text).map(([start, end]): Hit => ({
      start: span.start, end: span.end, directionId: span.direction.id, ...around(text, start, end),
    })))
}

const contextCharacters = 40

function around(text: string, start: number, end: number): Pick<Hit, 'before' | 'found' | 'after'> {
  return { before: text.slice(Math.max(0, start - contextCharacters), start), found: text.slice(start, end), after: text.slice(end, end + contextCharacters) }
}

function searched(content: Content, place: FindPlace, language: string): { readonly span: DirectionSpan, readonly text: string }[] {
  return directionSpans(content).flatMap(span => {
    const { direction } = span
    if (place === 'directions') return [{ span, text: direction.kind === 'keptPoint' ? direction.xml : `${directionNames[direction.kind]} ${valueText(direction)}`.trim() }]
    if (direction.kind === 'phoneme') return [{ span, text: direction.ph }]
    const words = wordsOf(direction, writtenText(content).slice(span.start, span.end), language)
    return words === null ? [] : [{ span, text: words }]
  })
}

type Matcher = (text: string) => (readonly [start: number, end: number])[]

function matcher({ what, matchCase, wholeWord, isPattern }: FindQuery): Matcher {
  if (what === '') fail('find-empty', 'Write what is to be found.')
  const pattern = compileRegExp(isPattern ? what : quoted(what), { ignoreCase: !matchCase })
  return text => {
    const spans: (readonly [number, number])[] = []
    const found = pattern.matcher(text)
    while (found.find()) {
      const [start, end] = [found.start(), found.end()]
      if (end > start && (!wholeWord || isWhole(text, start, end))) spans.push([start, end])
    }
    return spans
  }
}

function quoted(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|]/gu, '\\$&')
}

function isWhole(text: string, start: number, end: number): boolean {
  return !/[\p{L}\p{N}]$/u.test(text.slice(Math.max(0, start - 2), start)) && !/^[\p{L}\p{N}]/u.test(text.slice(end, end + 2))
}

export interface Replaced {
  readonly content: Content
  readonly count: number
  /** Values that the text is no value of: they stay. */
  readonly refused: number
}

/**
 * Replaces what is found: all of it, or only the one that begins at a place or is in a direction. In a pattern `$1` is its
 * first group. Words of say-as are made and cannot be replaced: they count as refused.
 */
export function replaceIn(content: Content, query: FindQuery, replacement: string, language: string, only?: { readonly start: number, readonly directionId?: string }): Replaced {
  const pattern = compileRegExp(query.isPattern ? query.what : quoted(query.what), { ignoreCase: !query.matchCase })
  const spansIn = matcher(query)
  const put = (found: string): string => query.isPattern ? pattern.matcher(found).replaceFirst(replacement) : replacement
  if (query.place === 'text') {
    const text = writtenText(content)
    const spans = spansIn(text).filter(([start]) => only === undefined || start === only.start)
    return { content: spans.reduceRight((result, [start, end]) => replaced(result, start, end, put(text.slice(start, end))), content), count: spans.length, refused: 0 }
  }
  let result = content
  let count = 0
  let refused = 0
  for (const { span } of searched(content, query.place, language)) {
    if (only !== undefined && only.directionId !== span.direction.id) continue
    const value = valueText(span.direction)
    const spans = spansIn(value)
    if (spans.length === 0) continue
    const changed = spans.reduceRight((text, [start, end]) => text.slice(0, start) + put(text.slice(start, end)) + text.slice(end), value)
    const direction = span.direction.kind === 'sayAs' && query.place === 'spoken' ? null : withValueText(span.direction, changed)
    if (direction === null) {
      refused += spans.length
    } else {
      result = withValue(result, direction.id, direction)
      count += spans.length
    }
  }
  return { content: result, count, refused }
}
