import { writtenText } from '../script/content'
import type { Direction } from '../script/directions'
import type { Passage } from '../script/script'
import { capabilitiesOf, castingOf, type Cast, type Casting, type Engines } from './cast'
import { isExamined, type ExaminedValue } from './examined'
import { supportOf } from './support'
import { plainTone, toneOf } from './tone'

/** A direction where it stands in a passage. */
export interface PlacedDirection {
  readonly direction: Direction
  /** In the written text; `end` is exclusive, and equal for what stands at a point. */
  readonly start: number
  readonly end: number
  /** Around it, outermost first. */
  readonly outer: readonly Direction[]
  /** Of the text that it stands in: BCP 47, and who speaks it. */
  readonly language: string
  readonly casting: Casting
}

/** What a voice cannot do of what a script asks for, and where. */
export interface Shortcoming {
  readonly passageId: string
  readonly start: number
  readonly end: number
  /** A sentence for the user, with the remedy. */
  readonly message: string
}

/** The directions of a passage in the order in which they begin. */
export function placedDirections({ content, role, language }: Passage, cast: Cast, otherwise: string): PlacedDirection[] {
  const byId = new Map(content.directions.map(direction => [direction.id, direction]))
  const found = new Map<string, PlacedDirection>()
  let at = 0
  for (const { text, on, point } of content.runs) {
    const ids = point === undefined ? on : [...on, point]
    ids.forEach((id, index) => {
      const known = found.get(id)
      const outer = ids.slice(0, index).map(each => byId.get(each)!)
      const around = (kind: 'language' | 'role'): Direction | undefined => outer.findLast(direction => direction.kind === kind)
      const [spoken, speaker] = [around('language'), around('role')]
      found.set(id, known === undefined ? {
        direction: byId.get(id)!, start: at, end: at + text.length, outer,
        language: spoken?.kind === 'language' && spoken.language !== '' ? spoken.language : language ?? otherwise, casting: castingOf(cast, speaker?.kind === 'role' ? speaker.role : role),
      } : { ...known, end: at + text.length })
    })
    at += text.length
  }
  return [...found.values()]
}

/** What the engines of a cast cannot do of a passage, as far as it is told without asking them. `sounds`: the names of the library; not judged without. */
export function shortcomingsOf(passage: Passage, cast: Cast, engines: Engines, language: string, sounds?: readonly string[]): Shortcoming[] {
  if (passage.content.directions.length === 0) return []
  const text = writtenText(passage.content)
  return placedDirections(passage, cast, language).flatMap(({ direction, start, end, outer, language: own, casting }): Shortcoming[] => {
    // What is kept for its file is none of the voice's affairs.
    if (direction.kind === 'kept' || direction.kind === 'keptPoint') return []
    const { how, note } = supportOf(direction, {
      casting, engine: capabilitiesOf(engines, casting), language: own, outer: toneOf(outer, plainTone), ...(sounds === undefined ? {} : { sounds }), ...(direction.kind === 'sayAs' ? { text: text.slice(start, end) } : {}),
    })
    return how === 'unavailable' ? [{ passageId: passage.id, start, end, message: note ?? 'This voice cannot do that.' }] : []
  })
}

/** What the engine is asked about a direction: sounds, voices and languages that it may not have; null where it need not be asked. */
export function examinedValueOf({ id: _, ...direction }: Direction): ExaminedValue | null {
  const value = direction as Direction
  if (value.kind === 'keptPoint') return value.says !== undefined && 'ph' in value.says ? { kind: 'phoneme', ph: value.says.ph } : null
  return isExamined(value) ? value : null
}
