import type { Direction } from '../script/directions'
import type { HitOff, PreparedRule, RuleHit, RuleSet, RuleSubject } from '../style/rule'
import { isSentencePoint, partedAt, pointSegment, type Cause, type Segment, type Step } from './segments'

/**
 * Lets the rules of a house style act, in order: each sees the text that those before it have made. A hit counts where it lies within one run
 * of the script and on nothing that is settled; rests count on settled text too. Takes time in proportion to the segments and hits.
 */
export function applyRules(segments: readonly Segment[], { rules }: RuleSet, subject: RuleSubject, off: readonly HitOff[], steps: Step[]): Segment[] {
  let now = [...segments]
  let text = textOf(now)
  const languages = new Set(segments.filter(isText).map(segment => segment.language))
  for (const rule of rules) {
    const own = off.filter(hit => hit.rule === rule.id)
    for (const language of languages) {
      const hits = rule.find({ text, language, kind: subject.kind }, subject)
      if (hits.length === 0) continue
      now = applyHits(now, rule, hits, language, own, steps)
      text = textOf(now)
    }
  }
  return now
}

const textOf = (segments: readonly Segment[]): string => segments.map(segment => segment.text).join('')

function applyHits(segments: readonly Segment[], rule: PreparedRule, hits: readonly RuleHit[], language: string, off: readonly HitOff[], steps: Step[]): Segment[] {
  const cutter = new Cutter(segments)
  const done: Step[] = []
  // From the last to the first: places before a hit stay what they are.
  for (const hit of hits.toReversed()) {
    const step = applyHit(cutter, rule.id, hit, language, off)
    if (step !== null) done.push(step)
  }
  steps.push(...done.toReversed())
  return cutter.all()
}

/** Segments that are cut at places from the last to the first. */
class Cutter {
  /** What is still to be looked at, and where in the text each of it begins. */
  readonly left: Segment[]
  readonly #starts: number[] = []
  /** What is done with, from the last to the first. */
  readonly right: Segment[] = []

  constructor(segments: readonly Segment[]) {
    this.left = [...segments]
    let at = 0
    for (const segment of segments) {
      this.#starts.push(at)
      at += segment.text.length
    }
  }

  all(): Segment[] {
    return [...this.left, ...this.right.toReversed()]
  }

  /**
   * Takes out what lies between two places, and where in the text it begins. A replaced segment is not parted: it is taken out as a whole.
   * Points at the edges stay outside.
   */
  take(from: number, to: number): { readonly segments: Segment[], readonly start: number } {
    this.#moveRight(to, from === to)
    const taken: Segment[] = []
    let start = from
    while (to > from) {
      const [segment, at] = this.#top()
      if (segment === undefined || at + segment.text.length <= from) break
      if (at < from && !segment.replaced) {
        const [before, behind] = partedAt(segment, from - at)
        this.#put(before, at)
        taken.push(behind)
        break
      }
      this.#drop()
      taken.push(segment)
      start = Math.min(start, at)
    }
    return { segments: taken.toReversed(), start }
  }

  /** Puts segments back where some were taken out. */
  putBack(segments: readonly Segment[], start: number): void {
    let at = start
    for (const segment of segments) {
      this.left.push(segment)
      this.#starts.push(at)
      at += segment.text.length
    }
  }

  /** Moves away what begins at a place or behind it. `keepsPoints`: points at the very place stay. */
  #moveRight(place: number, keepsPoints: boolean): void {
    for (;;) {
      const [segment, at] = this.#top()
      if (segment === undefined) return
      if (at > place || at === place && !(keepsPoints && segment.text === '')) {
        this.#drop()
        this.right.push(segment)
      } else if (at + segment.text.length > place && at < place) {
        if (!segment.replaced) {
          const [before, behind] = partedAt(segment, place - at)
          this.#put(before, at)
          this.right.push(behind)
        } else if (keepsPoints) {
          this.#drop()
          this.right.push(segment)
        }
        return
      } else {
        return
      }
    }
  }

  #top(): [segment: Segment | undefined, at: number] {
    return [this.left.at(-1), this.#starts.at(-1) ?? 0]
  }

  #drop(): void {
    this.left.pop()
    this.#starts.pop()
  }

  #put(segment: Segment, at: number): void {
    this.#drop()
    this.left.push(segment)
    this.#starts.push(at)
  }
}

/** Changes the segments where a hit counts. Null where it does not. */
function applyHit(cutter: Cutter, rule: string, hit: RuleHit, language: string, off: readonly HitOff[]): Step | null {
  const { segments: found, start } = cutter.take(hit.start, hit.end)
  const made = madeOf(found, start, cutter, rule, hit, language, off)
  cutter.putBack(made?.segments ?? found, start)
  return made?.step ?? null
}

function madeOf(
  found: readonly Segment[], start: number, { left, right }: Cutter, rule: string, hit: RuleHit, language: string, off: readonly HitOff[],
): { readonly segments: readonly Segment[], readonly step: Step } | null {
  const touched = found.filter(isText)
  const changes = hit.spoken !== undefined || hit.on !== undefined
  const here = touched[0] ?? left.findLast(isText) ?? right.findLast(isText)
  if (here?.language !== language) return null
  // A whole passage is said slower across its runs; what is replaced lies in one.
  if (hit.spoken !== undefined && touched.some(segment => segment.settled || segment.run !== touched[0]!.run)) return null
  if (changes && touched.length === 0) return null
  const at = touched[0]?.written[0] ?? left.at(-1)?.written[1] ?? right.at(-1)?.written[0] ?? 0
  const written: [number, number] = [at, touched.at(-1)?.written[1] ?? at]
  if (off.some(each => each.start === written[0] && each.end === written[1])) return null

  const before = touched.map(segment => segment.text).join('')
  const cause: Cause = hit.weak === true ? { rule, weak: true } : { rule }
  let made: readonly Segment[] = found
  let spoken = before
  if (hit.spoken !== undefined) {
    // A piece that is said as a whole is not parted: what lies beside the hit in it stays.
    const [ahead, rest] = [before.slice(0, Math.max(0, hit.start - start)), before.slice(Math.max(0, hit.start - start) + hit.end - hit.start)]
    const takesStop = before.slice(ahead.length, before.length - rest.length).endsWith('.') && hit.spoken !== '' && !/[.!?…]["”’)\]]*\s*$/u.test(hit.spoken)
    spoken = `${ahead}${hit.spoken}${takesStop && isSentenceEnd(rest, found, right) ? '.' : ''}${rest}`
    if (spoken === before && hit.on === undefined && hit.restBeforeMs === undefined && hit.restAfterMs === undefined) return null
    const by = [...new Set(touched.flatMap(segment => segment.by)), cause]
    made = [{ ...touched[0]!, written, text: spoken, replaced: true, by, on: allOn(touched) }, ...found.filter(segment => !isText(segment))]
  }
  if (hit.on !== undefined) {
    const added = hit.on.map((value, index): Direction => ({ ...value, id: `rule ${rule} ${written[0]} ${hit.start} ${index}` }))
    made = made.map(segment => isText(segment) ? { ...segment, on: [...segment.on, ...added] } : segment)
  }
  const rest = (ms: number | undefined, place: number, side: string): Segment[] => ms === undefined ? [] : [pointSegment({ id: `rule ${rule} ${place} ${side}`, kind: 'rest', ms }, place, true)]
  const { restBeforeMs, restAfterMs, on } = hit
  return {
    segments: [...rest(restBeforeMs, written[0], 'before'), ...made, ...rest(restAfterMs, written[1], 'after')],
    step: { by: cause, written, from: before, to: spoken, ...(restBeforeMs === undefined ? {} : { restBeforeMs }), ...(restAfterMs === undefined ? {} : { restAfterMs }), ...(on === undefined ? {} : { on }) },
  }
}

/** Whether a sentence ends here: only closing marks and white space stand before the next. `rest` is what follows in the segments that were found, `right` what follows them, from the last to the first. */
function isSentenceEnd(rest: string, found: readonly Segment[], right: readonly Segment[]): boolean {
  if (!closingMarks.test(rest)) return false
  if (found.some(isSentenceStart)) return true
  for (let index = right.length - 1; index >= 0; index -= 1) {
    if (isSentenceStart(right[index]!)) return true
    if (!closingMarks.test(right[index]!.text)) return false
  }
  return true
}

function isSentenceStart({ point }: Segment): boolean {
  return point !== undefined && isSentencePoint(point)
}

const closingMarks = /^["”’»)\]\s]*$/u

function isText({ point }: Segment): boolean {
  return point === undefined
}

function allOn(segments: readonly Segment[]): Direction[] {
  return [...new Map(segments.flatMap(segment => segment.on).map(direction => [direction.id, direction])).values()]
}
