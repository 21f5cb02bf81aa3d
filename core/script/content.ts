/**
 * The content schema of a passage, version 1: runs of written text, each with the ids of the
 * directions that cover it. Directions nest by (start, -end, id); a direction is one unbroken span.
 */
export interface Content {
  readonly version: 1
  readonly runs: readonly Run[]
  readonly directions: readonly Direction[]
}

export interface Run {
  readonly text: string
  /** Ids of the covering directions, outermost first. */
  readonly on: readonly string[]
}

/** An instruction to the voice. `leftOut`: written but not spoken. */
export interface Direction {
  readonly id: string
  readonly kind: DirectionKind
}

export const directionKinds = ['leftOut'] as const
export type DirectionKind = (typeof directionKinds)[number]

/** A direction with its place in the written text; `end` is exclusive. */
export interface DirectionSpan {
  readonly direction: Direction
  readonly start: number
  readonly end: number
}

/** Content without directions. */
export function plainContent(text: string): Content {
  return { version: 1, runs: text === '' ? [] : [{ text, on: [] }], directions: [] }
}

/** The text as the producer wrote it. */
export function writtenText(content: Content): string {
  return content.runs.map(run => run.text).join('')
}

/** Every direction with its span, in nesting order: by start, then the longer first, then by id. */
export function directionSpans(content: Content): DirectionSpan[] {
  const byId = new Map(content.directions.map(direction => [direction.id, direction]))
  const spans = new Map<string, { direction: Direction, start: number, end: number }>()
  let at = 0
  for (const run of content.runs) {
    for (const id of run.on) {
      const direction = byId.get(id)
      if (direction === undefined) continue
      const span = spans.get(id)
      if (span === undefined) spans.set(id, { direction, start: at, end: at + run.text.length })
      else span.end = at + run.text.length
    }
    at += run.text.length
  }
  return [...spans.values()].sort(nesting)
}

/**
 * The one canonical form: no empty runs, equal neighbours joined, ids outermost first, directions
 * that cover nothing dropped. Two contents are the same exactly when their canonical forms are equal.
 */
export function canonicalContent(content: Content): Content {
  const spans = directionSpans(content)
  const order = new Map(spans.map((span, index) => [span.direction.id, index]))
  const runs: Run[] = []
  for (const run of content.runs) {
    if (run.text === '') continue
    const on = [...new Set(run.on)].filter(id => order.has(id)).sort((a, b) => order.get(a)! - order.get(b)!)
    const last = runs.at(-1)
    if (last !== undefined && last.on.length === on.length && last.on.every((id, i) => id === on[i])) {
      runs[runs.length - 1] = { text: last.text + run.text, on }
    } else {
      runs.push({ text: run.text, on })
    }
  }
  return { version: 1, runs, directions: spans.map(span => span.direction) }
}

function nesting(a: DirectionSpan, b: DirectionSpan): number {
  return a.start - b.start || b.end - a.end || (a.direction.id < b.direction.id ? -1 : 1)
}
