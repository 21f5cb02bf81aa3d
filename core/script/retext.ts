import { canonicalContent, writtenText, type Content, type Run } from './content'

/** A content with another text: directions stay on what both texts have in common, and go with what goes. */
export function withText(content: Content, text: string): Content {
  const old = writtenText(content)
  if (old === text) return content
  const shortest = Math.min(old.length, text.length)
  let start = 0
  while (start < shortest && old[start] === text[start]) start += 1
  let end = 0
  while (end < shortest - start && old[old.length - 1 - end] === text[text.length - 1 - end]) end += 1
  return replaced(content, start, old.length - end, text.slice(start, text.length - end))
}

/**
 * A content with another text in place of a span of its written text. The new text has the directions of the letter that it
 * begins with; inserted between two letters, of those that cover both. Points within the span come after the new text.
 */
export function replaced(content: Content, start: number, end: number, text: string): Content {
  const before: Run[] = []
  const after: Run[] = []
  const points: Run[] = []
  let at = 0
  let first: readonly string[] | null = null
  for (const run of content.runs) {
    const runEnd = at + run.text.length
    if (run.point !== undefined) {
      (at <= start && (start < end || at < start) ? before : at >= end ? after : points).push(run)
    } else {
      if (at < start) before.push({ ...run, text: run.text.slice(0, start - at) })
      if (runEnd > start && at < end) first ??= run.on
      if (runEnd > end) after.push({ ...run, text: run.text.slice(Math.max(0, end - at)) })
    }
    at = runEnd
  }
  const left = before.findLast(run => run.point === undefined)?.on ?? []
  const right = after.find(run => run.point === undefined)?.on ?? []
  const on = first ?? left.filter(id => right.includes(id))
  return canonicalContent({ version: 2, runs: [...before, { text, on }, ...points, ...after], directions: content.directions })
}
