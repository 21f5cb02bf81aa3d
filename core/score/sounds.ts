import type { Direction, DirectionOf } from '../script/directions'
import { timeMs, volumeDb } from '../script/ssml/values'
import { lookup } from '../lookup'

/** A sound of the production's library. */
export interface Sound {
  /** Of its take. */
  readonly key: string
  readonly sampleCount: number
  /** Hz */
  readonly sampleRate: number
}

/** By name. */
export type Sounds = Readonly<Record<string, Sound>>

/** A stretch of a sound that a score plays. */
export interface SoundPlay {
  readonly key: string
  readonly name: string
  /** Silence before it, in ms. */
  readonly restBeforeMs: number
  /** Hz, of the sound: its samples are counted so. */
  readonly sampleRate: number
  readonly fromSample: number
  readonly sampleCount: number
  readonly gainDb: number
}

/** A sound under the speech, from one utterance of a score to another: again and again from its beginning. */
export interface BedPlay extends Sound {
  readonly name: string
  /** Indexes of the first and the last utterance. */
  readonly from: number
  readonly to: number
  readonly gainDb: number
  /** It grows and fades over so many ms. */
  readonly fadeMs: number
}

/** What stands between two words: rests and sounds in order, rests of rules, and the place of the rest that the house style gives between sentences or passages. */
export type GapItem = { readonly restMs: number } | { readonly ruledMs: number } | { readonly sound: Omit<SoundPlay, 'restBeforeMs'> } | 'ruled'

export interface Gap {
  readonly sounds: readonly SoundPlay[]
  /** Silence behind them, in ms. */
  readonly restMs: number
  /** A direction asks for a rest in it. */
  readonly isDirected: boolean
}

/** Lays a gap out. A rest that a direction asks for replaces the ruled ones; of these the longest counts. */
export function gapOf(items: readonly GapItem[], ruledMs: number): Gap {
  const isRuled = (item: GapItem): boolean => item === 'ruled' || 'ruledMs' in item
  const directed = items.some(item => item !== 'ruled' && 'restMs' in item)
  const longest = directed ? 0 : Math.max(0, ...items.map(item => item === 'ruled' ? ruledMs : 'ruledMs' in item ? item.ruledMs : 0))
  const place = items.includes('ruled') ? items.indexOf('ruled') : items.findIndex(isRuled)
  const sounds: SoundPlay[] = []
  let restMs = 0
  items.forEach((item, index) => {
    if (item === 'ruled' || 'ruledMs' in item) {
      restMs += index === place ? longest : 0
    } else if ('restMs' in item) {
      restMs += item.restMs
    } else {
      sounds.push({ ...item.sound, restBeforeMs: restMs })
      restMs = 0
    }
  })
  return { sounds, restMs, isDirected: directed }
}

type SoundDirection = Direction & DirectionOf<'sound'>

/** Attributes of `audio` (SSML 1.1, 3.3.1) that are followed; those that only say how to fetch it need nothing done. */
const followed = ['clipBegin', 'clipEnd', 'soundLevel']
const ofFetching = ['fetchtimeout', 'fetchhint', 'maxage', 'maxstale']

/** What a score plays for a direction; null when the library has no sound of that name. */
export function playOf({ sound, attributes = {} }: SoundDirection, sounds: Sounds): Omit<SoundPlay, 'restBeforeMs'> | null {
  const known = lookup(sounds, sound) ?? null
  if (known === null) return null
  const sampleAt = (name: string): number | null => {
    const ms = attributes[name] === undefined ? null : timeMs(attributes[name])
    return ms === null ? null : Math.min(known.sampleCount, Math.round(ms * known.sampleRate / 1000))
  }
  const fromSample = sampleAt('clipBegin') ?? 0
  const gainDb = attributes['soundLevel'] === undefined ? 0 : volumeDb(attributes['soundLevel']) ?? 0
  return { key: known.key, name: sound, sampleRate: known.sampleRate, fromSample, sampleCount: Math.max(0, (sampleAt('clipEnd') ?? known.sampleCount) - fromSample), gainDb }
}

/** Why a sound is not played as its direction asks: a sentence for the user; null when it is. `names`: those of the library; not judged without. */
export function soundObstacle({ sound, attributes = {} }: SoundDirection, names: readonly string[] | undefined): string | null {
  if (sound !== '' && names?.includes(sound) === false) return `The production has no sound “${sound}”. Bring one in under this name, or choose another.`
  const other = Object.keys(attributes).find(name => !followed.includes(name) && !ofFetching.includes(name))
  return other === undefined ? null : `It is played, but “${other}” is not followed here. Change the sound itself instead.`
}

/** A score with the tone of a room under it: a sound of the library. Without where that has no such sound, or none is asked for. */
export function withRoomTone<S extends object>(score: S, name: string | null, sounds: Sounds): S {
  const sound = name === null ? undefined : lookup(sounds, name)
  return sound === undefined ? score : { ...score, roomTone: { ...sound, name } }
}
