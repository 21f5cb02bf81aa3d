import { betweenSigns, trimSpan, type TextSpan } from '../language/sentences'

/**
 * Cuts a span of text into pieces of at most `limit` characters: at the last clause mark before the limit,
 * else at the last space, else between two characters. White space at the cuts belongs to no piece.
 */
export function pieces(text: string, span: TextSpan, limit: number): TextSpan[] {
  const result: TextSpan[] = []
  let start = span.start
  while (span.end - start > limit) {
    const end = start + bestCut(text.slice(start, start + limit + 1), limit)
    result.push(trimSpan(text, { start, end }))
    start = end
  }
  result.push(trimSpan(text, { start, end: span.end }))
  return result.filter(piece => piece.end > piece.start)
}

/** A cut in the first half would leave needlessly short pieces. */
function bestCut(window: string, limit: number): number {
  const clause = [...window.matchAll(/[,;:–—)\]、，；：](?=\s|[\u3000-\u9fff])/gu)].at(-1)
  if (clause !== undefined && clause.index + clause[0].length > limit / 2) return clause.index + clause[0].length
  const space = [...window.matchAll(/\s+/gu)].at(-1)
  if (space !== undefined && space.index > 0) return space.index
  return betweenSigns(window, limit)
}
