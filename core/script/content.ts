import { directionRules, type Direction } from './directions'

export type { Direction } from './directions'

/** Longest written text of one passage, in characters. */
export const maximumPassageCharacters = 1_000_000

/**
 * The content schema of a passage, version 2: runs of written text and points between them, each with the ids of the
 * directions that cover it. Directions nest by (start, -end, id), those that hold only text innermost; a direction is one
 * unbroken span or one point.
 */
export interface Content {
  readonly version: 2
  readonly runs: readonly Run[]
  readonly directions: readonly Direction[]
}

export interface Run {
  /** Empty for a point. */
  readonly text: string
  /** Ids of the covering directions, outermost first. */
  readonly on: readonly string[]
  /** Id of the direction that stands at this point. */
  readonly point?: string
}

/** A direction with its place in the written text; `end` is exclusive, and equal to `start` for a point. */
export interface DirectionSpan {
  readonly direction: Direction
  readonly start: number
  readonly end: number
}

/** Content without directions. */
export function plainContent(text: string): Content {
  return { version: 2, runs: text === '' ? [] : [{ text, on: [] }], directions: [] }
}

/** Content whose given spans, in order and without overlap, have emphasis. */
export function emphasised(text: string, spans: readonly (readonly [start: number, end: number])[]): Content {
  if (spans.length === 0) return plainContent(text)
  const runs: Run[] = []
  const directions: Direction[] = []
  let from = 0
  for (const [start, end] of spans) {
    const id = `e${directions.length + 1}`
    directions.push({ id, kind: 'emphasis', level: 'moderate' })
    runs.push({ text: text.slice(from, start), on: [] }, { text: text.slice(start, end), on: [id] })
    from = end
  }
  return canonicalContent({ version: 2, runs: [...runs, { text: text.slice(from), on: [] }], directions })
}

/** The text as the producer wrote it. */
export function writtenText(content: Content): string {
  let text = ''
  for (const run of content.runs) text += run.text
  return text
}

/** Every direction with its span, in nesting order: by start, then the longer first, then by id. Points come as they stand. */
export function directionSpans(content: Content): DirectionSpan[] {
  const byId = new Map(content.directions.map(direction => [direction.id, direction]))
  const spans = new Map<string, Span>()
  let at = 0
  content.runs.forEach((run, index) => {
    const end = at + run.text.length
    for (const id of run.on) {
      const direction = byId.get(id)
      if (direction === undefined) continue
      const span = spans.get(id)
      if (span === undefined) spans.set(id, { direction, start: at, end, first: index, last: index })
      else Object.assign(span, { end, last: index })
    }
    const point = run.point === undefined ? undefined : byId.get(run.point)
    if (point !== undefined) spans.set(point.id, { direction: point, start: at, end: at, first: index, last: index })
    at = end
  })
  return [...spans.values()].sort(nesting).map(({ direction, start, end }) => ({ direction, start, end }))
}

interface Span extends DirectionSpan {
  end: number
  /** Indexes of the runs it covers. */
  readonly first: number
  last: number
}

/** Over text, by id, with the runs they cover: points between runs count as well as letters. */
function nesting(a: Span, b: Span): number {
  return a.first - b.first || b.last - a.last || Number(isTextOnly(a)) - Number(isTextOnly(b)) || (a.direction.id < b.direction.id ? -1 : 1)
}

function isTextOnly({ direction }: { direction: Direction }): boolean {
  return directionRules[direction.kind].textOnly || directionRules[direction.kind].point
}

/**
 * The one canonical form: no empty runs, equal neighbours joined, ids outermost first, directions that cover nothing
 * dropped. A direction whose runs do not follow each other, or that crosses another, becomes several, the later ones
 * with ids of their own. In one that holds only text there is nothing but text: points in it come after it, other
 * directions end at it, and it goes on after no gap. Two contents are the same exactly when their canonical forms are equal.
 */
export function canonicalContent(content: Content): Content {
  // Where something was cut, lengths differ from those it was nested by: nested again, nothing crosses any more.
  return nested(lettered(nested(lettered(unbroken(onlyText(unbroken(content)))))))
}

function nested({ runs, directions }: Content): Content {
  const known = new Map(directions.map(direction => [direction.id, direction]))
  const spans = spansOf(runs, known)
  // Built from the outside in: what crosses an open direction ends with it and goes on after it under another id.
  const ids = new Set(known.keys())
  const taken: Direction[] = []
  const open: Span[] = []
  const result: Run[] = []
  runs.forEach((run, index) => {
    const carriedOn: Span[] = []
    while (open.length > 0 && open.some(span => span.last < index)) {
      const closed = open.pop()!
      if (closed.last >= index) carriedOn.push(closed)
    }
    const beginning = [
      ...carriedOn.map(span => ({ ...span, direction: { ...span.direction, id: freshId(span.direction.id, ids) }, first: index })),
      ...[...spans.values()].filter(span => span.first === index),
    ].sort(nesting)
    for (const span of beginning) {
      open.push(span)
      taken.push(span.direction)
    }
    const on = open.map(span => span.direction.id)
    const last = result.at(-1)
    if (run.point === undefined && last !== undefined && last.point === undefined && last.on.length === on.length && last.on.every((id, i) => id === on[i])) {
      result[result.length - 1] = { text: last.text + run.text, on }
    } else {
      result.push(run.point === undefined ? { text: run.text, on } : { text: '', on, point: run.point })
    }
    if (run.point !== undefined) taken.push(known.get(run.point)!)
  })
  return { version: 2, runs: result, directions: taken }
}

/** Without directions on spans in which there is no text. */
function lettered({ runs, directions }: Content): Content {
  const full = new Set(runs.flatMap(run => run.point === undefined ? run.on : []))
  return {
    version: 2, runs: runs.map(run => run.point === undefined ? run : { ...run, on: run.on.filter(id => full.has(id)) }),
    directions: directions.filter(direction => directionRules[direction.kind].point || full.has(direction.id)),
  }
}

function spansOf(runs: readonly Run[], known: ReadonlyMap<string, Direction>): Map<string, Span> {
  const spans = new Map<string, Span>()
  runs.forEach((run, index) => {
    for (const id of run.on) {
      const span = spans.get(id)
      if (span === undefined) spans.set(id, { direction: known.get(id)!, start: 0, end: 0, first: index, last: index })
      else span.last = index
    }
  })
  return spans
}

/** Clears everything but text out of the directions that hold only text, the longest and first of them first. */
function onlyText(content: Content): Content {
  if (!content.directions.some(direction => directionRules[direction.kind].textOnly)) return content
  const known = new Map(content.directions.map(direction => [direction.id, direction]))
  let runs: Run[] = [...content.runs]
  for (const { id } of [...spansOf(runs, known).values()].filter(span => directionRules[span.direction.kind].textOnly).sort(nesting).map(span => span.direction)) {
    const spans = spansOf(runs, known)
    const span = spans.get(id)
    if (span === undefined) continue
    const isAround = (other: string): boolean => {
      const { first, last, direction } = spans.get(other)!
      return first <= span.first && last >= span.last && !directionRules[direction.kind].textOnly
    }
    const inside = runs.slice(span.first, span.last + 1)
    const letters = inside.filter(run => run.point === undefined).map(run => ({ text: run.text, on: run.on.filter(other => other === id || isAround(other)) }))
    const points = inside.filter(run => run.point !== undefined).map(run => ({ ...run, on: run.on.filter(isAround) }))
    runs = [...runs.slice(0, span.first), ...letters, ...points, ...runs.slice(span.last + 1)]
  }
  return { version: 2, runs, directions: content.directions }
}

/** Without empty runs, unknown ids and doubled points; a direction that comes again after a gap has another id there. */
function unbroken({ runs, directions }: Content): Content {
  const known = new Map(directions.map(direction => [direction.id, direction]))
  const ids = new Set(known.keys())
  const kept: Direction[] = []
  const points = new Set<string>()
  /** Id of each direction's piece in the run before, and its name there. */
  let before = new Map<string, string>()
  const seen = new Set<string>()
  const result: Run[] = []
  for (const run of runs) {
    const point = run.point === undefined ? undefined : known.get(run.point)
    if (point === undefined ? run.text === '' : !directionRules[point.kind].point) continue
    const here = new Map<string, string>()
    for (const id of run.on) {
      const direction = known.get(id)
      if (direction === undefined || directionRules[direction.kind].point || here.has(id)) continue
      if (!before.has(id) && seen.has(id) && directionRules[direction.kind].textOnly) continue
      const name = before.get(id) ?? (seen.has(id) ? freshId(id, ids) : id)
      if (!before.has(id)) kept.push(name === id ? direction : { ...direction, id: name })
      here.set(id, name)
      seen.add(id)
    }
    const on = [...here.values()]
    if (point === undefined) {
      result.push({ text: run.text, on })
    } else {
      const id = points.has(point.id) ? freshId(point.id, ids) : point.id
      points.add(id)
      kept.push(id === point.id ? point : { ...point, id })
      result.push({ text: '', on, point: id })
    }
    before = here
  }
  return { version: 2, runs: result, directions: kept }
}

function freshId(id: string, ids: Set<string>): string {
  const stem = id.replace(/~\d+$/u, '').slice(0, 56)
  for (let number = 2; ; number += 1) {
    const candidate = `${stem}~${number}`
    if (ids.has(candidate)) continue
    ids.add(candidate)
    return candidate
  }
}

/** The same content whose ids are numbered in nesting order: contents that differ only in ids become equal. */
export function numberedContent(content: Content): Content {
  const { runs, directions } = canonicalContent(content)
  const names = new Map(directions.map((direction, index) => [direction.id, `d${String(index + 1).padStart(4, '0')}`]))
  return {
    version: 2,
    runs: runs.map(run => ({ ...run, on: run.on.map(id => names.get(id)!), ...(run.point === undefined ? {} : { point: names.get(run.point)! }) })),
    directions: directions.map(direction => ({ ...direction, id: names.get(direction.id)! })),
  }
}

/** A piece of a content, by places in its written text. Points at its start belong to it, those at its end only where the text ends. */
export function sliceContent(content: Content, start: number, end: number): Content {
  const total = writtenText(content).length
  let at = 0
  const runs: Run[] = []
  for (const run of content.runs) {
    const runEnd = at + run.text.length
    if (run.point !== undefined ? at >= start && (at < end || end >= total) : runEnd > start && at < end) {
      runs.push(run.point !== undefined ? run : { ...run, text: run.text.slice(Math.max(0, start - at), end - at) })
    }
    at = runEnd
  }
  return canonicalContent({ version: 2, runs, directions: content.directions })
}

/** Contents one after the other. Directions of the later ones whose id is taken have another. */
export function joinContents(...contents: readonly Content[]): Content {
  const ids = new Set<string>()
  const runs: Run[] = []
  const directions: Direction[] = []
  for (const content of contents) {
    const names = new Map(content.directions.map(({ id }) => [id, ids.has(id) ? freshId(id, ids) : id]))
    for (const name of names.values()) ids.add(name)
    directions.push(...content.directions.map(direction => ({ ...direction, id: names.get(direction.id)! })))
    runs.push(...content.runs.map(run => ({ ...run, on: run.on.flatMap(id => names.get(id) ?? []), ...(run.point === undefined ? {} : { point: names.get(run.point)! }) })))
  }
  return canonicalContent({ version: 2, runs, directions })
}
