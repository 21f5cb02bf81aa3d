import { canonicalContent, type Content, type Run } from './content'
import { directionRules, type Direction, type DirectionValue } from './directions'

// Directions put on and changed. Places are in the written text, UTF-16 units from 0.

/** Puts a direction on a span, or at a point when `start` is `end`. */
export function withDirection(content: Content, direction: Direction, start: number, end: number): Content {
  const isPoint = directionRules[direction.kind].point
  const runs: Run[] = []
  let at = 0
  let placed = false
  for (const run of content.runs) {
    const runEnd = at + run.text.length
    if (isPoint && !placed && start <= runEnd && run.point === undefined) {
      const [before, after] = [run.text.slice(0, start - at), run.text.slice(start - at)]
      runs.push({ text: before, on: run.on }, { text: '', on: start > at && start < runEnd ? run.on : [], point: direction.id }, { text: after, on: run.on })
      placed = true
    } else if (isPoint || run.point !== undefined ? isPoint || at <= start || at >= end : runEnd <= start || at >= end) {
      runs.push(run)
    } else if (run.point !== undefined) {
      runs.push({ ...run, on: [...run.on, direction.id] })
    } else {
      const [from, to] = [Math.max(0, start - at), Math.min(run.text.length, end - at)]
      runs.push({ ...run, text: run.text.slice(0, from) }, { text: run.text.slice(from, to), on: [...run.on, direction.id] }, { ...run, text: run.text.slice(to) })
    }
    at = runEnd
  }
  if (isPoint && !placed) runs.push({ text: '', on: [], point: direction.id })
  return canonicalContent({ version: 2, runs, directions: [...content.directions, direction] })
}

/** The content with another value of one of its directions; one that is not there changes nothing. */
export function withValue(content: Content, id: string, value: DirectionValue): Content {
  return canonicalContent({ ...content, directions: content.directions.map(direction => direction.id === id ? { id, ...value } : direction) })
}
