import type { Direction, DirectionValue } from '../script/directions'

/** What makes a text spoken as it is: a direction, an entry of a wordbook, or a rule of the house style, by its id; `weak`: the rule is not sure. */
export type Cause = { readonly direction: string } | { readonly word: string } | { readonly rule: string, readonly weak?: true }

/** What one of them did at one place. */
export interface Step {
  readonly by: Cause
  readonly written: readonly [start: number, end: number]
  /** Its text before and behind it. They are equal where only a rest or a way of saying it came. */
  readonly from: string
  readonly to: string
  readonly restBeforeMs?: number
  readonly restAfterMs?: number
  readonly on?: readonly (Direction | DirectionValue)[]
}

/** A piece of what is spoken, on its way from the written text; a point has no text. */
export interface Segment {
  readonly written: readonly [start: number, end: number]
  readonly text: string
  /** Its text is not the written one, or is said as a whole. */
  readonly replaced: boolean
  readonly by: readonly Cause[]
  /** A direction or a wordbook has decided: no rule may. */
  readonly settled: boolean
  /** Rules do not reach from one run of the script into another. */
  readonly run: number
  /** BCP 47 */
  readonly language: string
  /** Outermost first. */
  readonly on: readonly Direction[]
  readonly point?: { readonly direction: Direction, readonly ruled?: true }
}

export function textSegment(written: Segment['written'], text: string, language: string, run: number, on: readonly Direction[]): Segment {
  return { written, text, replaced: false, by: [], settled: false, run, language, on }
}

export function pointSegment(direction: Direction, at: number, ruled?: true): Segment {
  return { written: [at, at], text: '', replaced: false, by: [], settled: true, run: -1, language: '', on: [], point: { direction, ...(ruled === undefined ? {} : { ruled }) } }
}

/** A point where a sentence begins: found before any rule, it stays whatever rules make of the text around it. */
const sentenceStart: Direction = { id: 'sentence', kind: 'keptPoint', xml: '' }

export function sentencePoint(at: number): Segment {
  return pointSegment(sentenceStart, at, true)
}

export function isSentencePoint({ direction }: { readonly direction: Direction }): boolean {
  return direction === sentenceStart
}

/** A segment in two, `length` being that of the first. */
export function partedAt(segment: Segment, length: number): [Segment, Segment] {
  const [start, end] = segment.written
  return [{ ...segment, written: [start, start + length], text: segment.text.slice(0, length) }, { ...segment, written: [start + length, end], text: segment.text.slice(length) }]
}
