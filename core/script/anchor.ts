import { wholeText } from './whole-text'

/** A place in the script that survives edits: it is found again by what it quotes and what stood around it. */
export interface Anchor {
  readonly passageId: string
  /** Where it was in the written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
  readonly quote: string
  /** At most `contextCharacters` on each side. */
  readonly before: string
  readonly after: string
}

const contextCharacters = 16
const longestQuote = 2000

export function anchorAt(passageId: string, text: string, start: number, end: number): Anchor {
  return {
    passageId, start, end, quote: whole(text.slice(start, Math.min(end, start + longestQuote))),
    before: whole(text.slice(Math.max(0, start - contextCharacters), start)), after: whole(text.slice(end, end + contextCharacters)),
  }
}

/** Without a half of a character at its ends. */
function whole(text: string): string {
  return text.replace(/^[\udc00-\udfff]|[\ud800-\udbff]$/gu, '')
}

/**
 * Where an anchor is in the text as it is now: where it was, or else where most of what stood around the quote still does, the nearest of
 * several. Null when the quote is gone: the anchor is loose.
 */
export function placeOf({ start, end, quote, before, after }: Anchor, text: string): readonly [start: number, end: number] | null {
  const length = end - start
  const score = (at: number): number => {
    let kept = 0
    while (kept < before.length && before[before.length - 1 - kept] === text[at - 1 - kept]) kept += 1
    let behind = 0
    while (behind < after.length && after[behind] === text[at + length + behind]) behind += 1
    return kept + behind
  }
  if (text.startsWith(quote, start) && score(start) === before.length + after.length) return [start, end]
  let best: { readonly at: number, readonly score: number } | null = null
  for (let at = text.indexOf(quote); at >= 0 && quote !== ''; at = text.indexOf(quote, at + 1)) {
    const own = score(at)
    if (best === null || own > best.score || own === best.score && Math.abs(at - start) < Math.abs(best.at - start)) best = { at, score: own }
  }
  return best === null ? null : [best.at, best.at + length]
}

/**
 * Where an anchor probably is when its quote is gone: between what stood before it and what stood behind it, where both are still there; what stood at an edge of the
 * text is at that edge. Null when that is not known either.
 */
export function lostPlaceOf({ start, before, after }: Anchor, text: string): readonly [start: number, end: number] | null {
  const from = before === '' ? 0 : nearest(text, before, start - before.length)
  if (from === null) return null
  const first = from + before.length
  const end = after === '' ? text.length : text.indexOf(after, first)
  return end < first ? null : [first, end]
}

/** The occurrence of a text that is nearest to a place. */
function nearest(text: string, wanted: string, place: number): number | null {
  let best: number | null = null
  for (let at = text.indexOf(wanted); at >= 0; at = text.indexOf(wanted, at + 1)) if (best === null || Math.abs(at - place) < Math.abs(best - place)) best = at
  return best
}

const context = { type: 'string', maxLength: contextCharacters, pattern: wholeText } as const

/** JSON Schema of an anchor. */
export const anchorSchema = {
  type: 'object', required: ['passageId', 'start', 'end', 'quote', 'before', 'after'], additionalProperties: false,
  properties: {
    passageId: { type: 'string', format: 'uuid' }, start: { type: 'integer', minimum: 0 }, end: { type: 'integer', minimum: 0 },
    quote: { type: 'string', maxLength: longestQuote, pattern: wholeText }, before: context, after: context,
  },
} as const
