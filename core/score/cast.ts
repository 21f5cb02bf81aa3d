import type { SayAsKind } from '../language/say-as'
import { lookup } from '../lookup'
import { fail } from '../problem'

/** What the role is called that reads whatever no other one does, until it is called otherwise. */
export const narratorName = 'Narrator'

/** The id of an engine, as the registry of engines has it. */
export type EngineId = string

/** How a role speaks in one edition. */
export interface Casting {
  readonly engine: EngineId
  /** The voice's id in its engine, e.g. `en-gb`; a variant follows a plus sign: `en-gb+f3`. */
  readonly voice: string
  /** What this voice's sound depends on besides the request: engine version, data, trimming. */
  readonly voiceRevision: string
  /** True words a minute of speech, rests not counted. */
  readonly wordsPerMinute: number
  /** Against the voice's own pitch. */
  readonly pitchSemitones: number
  /** Applied when a track is assembled; 0 dB is the engine's full level. */
  readonly gainDb: number
}

/** Who speaks: the narrator, and the other roles by what scripts call them. A role without a casting is spoken by the narrator. */
export interface Cast {
  readonly casting: Casting
  readonly castings?: Readonly<Record<string, Casting>>
}

export interface Range {
  readonly min: number
  readonly max: number
}

/** A value, or the end of the range that it is beyond. */
export function within({ min, max }: Range, value: number): number {
  return Math.max(min, Math.min(max, value))
}

/** How a direction is done. */
export interface Support {
  readonly how: 'native' | 'emulated' | 'unavailable'
  /** How it is emulated, or why it is not to be had: a sentence for the user. */
  readonly note?: string
}

/** What an engine does of the directions that are its own affair; the others are done where a track is assembled, whatever the engine. */
export interface DirectionSupport {
  readonly emphasis: Support
  /** What it is given as such; all else of say-as it is given in words. */
  readonly sayAs: readonly SayAsKind[]
  /** A pronunciation in IPA. */
  readonly phoneme: Support
  /** Change of pace and range alone, and with pitch or volume. */
  readonly prosody: Support
  readonly pitchOrVolume: Support
  readonly contour: Support
  readonly duration: Support
  readonly language: Support
  readonly voice: Support
}

/** What an engine can do, as data: checked before a reading, shown as a reason. */
export interface EngineCapabilities {
  readonly id: EngineId
  readonly name: string
  /** It is asked over the network, under an account, and billed. */
  readonly isPaid?: true
  /** Hz */
  readonly sampleRate: number
  /** Characters of spoken text in one utterance. */
  readonly maximumCharacters: number
  readonly wordsPerMinute: Range
  readonly pitchSemitones: Range
  readonly gainDb: Range
  /** About how long it works on an utterance, ms: for each, and for each second of speech. */
  readonly work: { readonly eachMs: number, readonly perSpokenSecondMs: number }
  /** What a role has that nobody has set. */
  readonly defaults: Pick<Casting, 'wordsPerMinute' | 'pitchSemitones' | 'gainDb'>
  /** Variants that new roles get in turn, so that they are told apart at once. */
  readonly colourings: readonly string[]
  readonly directions: DirectionSupport
}

/** Capabilities by engine. */
export type Engines = Readonly<Record<EngineId, EngineCapabilities>>

/** The capabilities of a casting's engine. Throws a problem for one that is not there. */
export function capabilitiesOf(engines: Engines, { engine }: Pick<Casting, 'engine'>): EngineCapabilities {
  return lookup(engines, engine) ?? fail('engine-unknown', `There is no speech engine “${engine}” here. Choose another voice on the Cast page.`)
}

/** Samples a second of the tracks that a cast speaks: the highest rate of its engines. */
export function trackRateOf({ casting, castings = {} }: Cast, engines: Engines): number {
  return Math.max(...[casting, ...Object.values(castings)].map(each => capabilitiesOf(engines, each).sampleRate))
}

/** The casting of a role; null is the narrator. */
export function castingOf({ casting, castings }: Cast, role: string | null | undefined): Casting {
  return role === null || role === undefined ? casting : lookup(castings ?? {}, role) ?? casting
}
