import type { Casting, EngineId } from './cast'
import type { PartScore, Utterance } from './compile'
import type { SoundPlay } from './sounds'
import type { ToneSegment } from './tone'

/** Everything an engine is told about one utterance, and nothing else. */
export interface EngineRequest {
  readonly engine: EngineId
  readonly voice: string
  readonly voiceRevision: string
  readonly wordsPerMinute: number
  readonly pitchSemitones: number
  /** What is said, as the engine has written it for itself: JSON. */
  readonly body: unknown
}

/** Where the assembler does something in an utterance. */
export interface Stretch {
  /** Place in what is sent, from 0, from which on it counts. */
  readonly place: number
  /** Sounds before it, and silence behind them, in ms. */
  readonly sounds?: readonly SoundPlay[]
  readonly restMs: number
  /** Against the level of its role. */
  readonly gainDb: number
}

/** What the assembler does from a place on, before a segment of an utterance. */
export function stretchAt(place: number, { tone, gap }: Pick<ToneSegment, 'tone' | 'gap'>): Stretch {
  return { place, restMs: gap?.restMs ?? 0, gainDb: tone.gainDb, ...(gap === undefined || gap.sounds.length === 0 ? {} : { sounds: gap.sounds }) }
}

/** An utterance as an engine has written it down for itself. Places are the engine's own; they are those of the marks in its takes. */
export interface WrittenRequest {
  readonly request: EngineRequest
  /** Key of its takes: SHA-256 (hex) of everything that decides how they sound. Equal keys have equal audio. */
  readonly key: string
  /** Words in order, three numbers each: place, start and end in the passage's written text. */
  readonly words: readonly number[]
  /** At least one, from place 0. */
  readonly stretches: readonly Stretch[]
  /** Places in all. */
  readonly length: number
}

/** An utterance with what the engine of its role is asked for it. */
export interface CastUtterance extends Utterance, Omit<WrittenRequest, 'stretches'> {
  /** Level at which it is spoken, before its stretches. */
  readonly gainDb: number
  /** Rests and levels within it, when there are any. */
  readonly stretches?: readonly Stretch[]
}

/** The score of a part as a cast speaks it. */
export interface CastScore extends PartScore {
  readonly utterances: readonly CastUtterance[]
}

/** How an engine writes down what a casting is to say in these segments. */
export type WriteRequest = (casting: Casting, segments: Utterance['segments']) => WrittenRequest
