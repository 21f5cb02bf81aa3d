import type { Direction } from '../script/directions'
import type { HitOff, PreparedRule, RuleHit, RuleSet, RuleSubject } from '../style/rule'
import { isSentencePoint, partedAt, pointSegment, type Segment, type Step } from './segments'

/**
 * Lets the rules of a house style act, in order: each sees the text that those before it have made. A hit counts where it lies within one run
 * of the script and on nothing that is settled; rests count on settled text too.
 */
export function applyRules(segments: readonly Segment[], { rules }: RuleSet, subject: RuleSubject, off: readonly HitOff[], steps: Step[]): Segment[] {
  const now = [...segments]
  const languages = new Set(segments.filter(segment => segment.point === undefined).map(segment => segment.language))
  for (const rule of rules) {
    const own = off.filter(hit => hit.rule === rule.id)
    for (const language of languages) steps.push(...applyRule(now, rule, language, subject, own))
  }
  return now
}

/** Changes the segments; gives what it did, in the order of the text. */
function applyRule(segments: Segment[], rule: PreparedRule, language: string, subject: RuleSubject, off: readonly HitOff[]): Step[] {
  const text = segments.map(segment => segment.text).join('')
  const hits = rule.find({ text, language, kind: subject.kind }, subject)
  // From the last to the first: places before a hit stay what they are.
  return hits.toReversed().flatMap(hit => applyHit(segments, rule.id, hit, language, off) ?? []).toReversed()
}

/** Changes the segments where a hit counts. Null where it does not. */
function applyHit(segments: Segment[], rule: string, hit: RuleHit, language: string, off: readonly HitOff[]): Step | null {
  const from = cutAt(segments, hit.start, 'start')
  const to = hit.end === hit.start ? from : Math.max(from, cutAt(segments, hit.end, 'end'))
  const touched = segments.slice(from, to).filter(segment => segment.point === undefined)
  const changes = hit.spoken !== undefined || hit.on !== undefined
  const here = touched[0] ?? segments.slice(0, from).findLast(segment => segment.point === undefined) ?? segments.find(segment => segment.point === undefined)
  if (here?.language !== language) return null
  // A whole passage is said slower across its runs; what is replaced lies in one.
  if (hit.spoken !== undefined && touched.some(segment => segment.settled || segment.run !== touched[0]!.run)) return null
  if (changes && touched.length === 0) return null
  const at = touched.length > 0 ? touched[0]!.written[0] : placeBefore(segments, from)
  const written: [number, number] = [at, touched.at(-1)?.written[1] ?? at]
  if (off.some(each => each.start === written[0] && each.end === written[1])) return null

  const before = touched.map(segment => segment.text).join('')
  const cause = { rule }
  let made: Segment[] = segments.slice(from, to)
  let spoken = before
  if (hit.spoken !== undefined) {
    // A piece that is said as a whole is not parted: what lies beside the hit in it stays.
    const start = from === to ? 0 : hit.start - offsetOf(segments, from)
    const [ahead, rest] = [before.slice(0, Math.max(0, start)), before.slice(Math.max(0, start) + hit.end - hit.start)]
    const takesStop = before.slice(ahead.length, before.length - rest.length).endsWith('.') && hit.spoken !== '' && !/[.!?…]["”’)\]]*\s*$/u.test(hit.spoken)
    spoken = `${ahead}${hit.spoken}${takesStop && isSentenceEnd(rest, segments, from, to) ? '.' : ''}${rest}`
    if (spoken === before && hit.on === undefined && hit.restBeforeMs === undefined && hit.restAfterMs === undefined) return null
    const by = [...new Set(touched.flatMap(segment => segment.by)), cause]
    made = [{ ...touched[0]!, written, text: spoken, replaced: true, by, on: allOn(touched) }, ...made.filter(segment => segment.point !== undefined)]
  }
  if (hit.on !== undefined) {
    const added = hit.on.map((value, index): Direction => ({ ...value, id: `rule ${rule} ${written[0]} ${hit.start} ${index}` }))
    made = made.map(segment => segment.point === undefined ? { ...segment, on: [...segment.on, ...added] } : segment)
  }
  const rest = (ms: number | undefined, place: number, side: string): Segment[] => ms === undefined ? [] : [pointSegment({ id: `rule ${rule} ${place} ${side}`, kind: 'rest', ms }, place, true)]
  segments.splice(from, to - from, ...rest(hit.restBeforeMs, written[0], 'before'), ...made, ...rest(hit.restAfterMs, written[1], 'after'))
  const { restBeforeMs, restAfterMs, on } = hit
  return { by: cause, written, from: before, to: spoken, ...(restBeforeMs === undefined ? {} : { restBeforeMs }), ...(restAfterMs === undefined ? {} : { restAfterMs }), ...(on === undefined ? {} : { on }) }
}

/** Whether a sentence ends here: only closing marks and white space stand before the next. `rest` is what follows in the segments from `from` up to `to`. */
function isSentenceEnd(rest: string, segments: readonly Segment[], from: number, to: number): boolean {
  if (!closingMarks.test(rest)) return false
  for (const segment of [...segments.slice(from, to).filter(isPoint), ...segments.slice(to)]) {
    if (segment.point !== undefined && isSentencePoint(segment.point)) return true
    if (!closingMarks.test(segment.text)) return false
  }
  return true
}

const closingMarks = /^["”’»)\]\s]*$/u

function isPoint({ point }: Segment): boolean {
  return point !== undefined
}

function allOn(segments: readonly Segment[]): Direction[] {
  return [...new Map(segments.flatMap(segment => segment.on).map(direction => [direction.id, direction])).values()]
}

function offsetOf(segments: readonly Segment[], index: number): number {
  return segments.slice(0, index).reduce((sum, segment) => sum + segment.text.length, 0)
}

/** The written place that a point between two segments has. */
function placeBefore(segments: readonly Segment[], index: number): number {
  return segments[index - 1]?.written[1] ?? segments[index]?.written[0] ?? 0
}

/**
 * Makes a place of the text the edge of a segment, and gives the index of the segment that begins there. A replaced segment is not
 * parted: its nearer edge outwards is taken. At a start points stand before the place, at an end behind it.
 */
function cutAt(segments: Segment[], at: number, side: 'start' | 'end'): number {
  let offset = 0
  for (let index = 0; index < segments.length; index += 1) {
    const segment = segments[index]!
    const end = offset + segment.text.length
    if (side === 'end' && offset >= at) return index
    if (segment.text !== '' && at < end) {
      if (at <= offset) return index
      if (segment.replaced) return side === 'start' ? index : index + 1
      segments.splice(index, 1, ...partedAt(segment, at - offset))
      return index + 1
    }
    offset = end
  }
  return segments.length
}
