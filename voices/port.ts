import type { Problem } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'

/** A voice of an engine, as data. */
export interface Voice {
  readonly engine: EngineId
  /** Unique in its engine, stable. */
  readonly id: string
  readonly name: string
  /** BCP 47 */
  readonly language: string
  readonly gender: 'female' | 'male' | 'unknown'
}

/** A colouring of any voice of an engine: its id follows the voice's after a plus sign. */
export interface VoiceVariant {
  readonly id: string
  readonly name: string
  readonly gender: Voice['gender']
}

export interface VoiceList {
  /** Goes into every key: changes when equal requests may sound different. */
  readonly revision: string
  readonly voices: readonly Voice[]
  readonly variants: readonly VoiceVariant[]
}

/** Audio of one utterance, trimmed to its speech. */
export interface Spoken {
  readonly samples: Int16Array
  /** Hz */
  readonly sampleRate: number
  /**
   * Where words begin, as pairs in one list: place in the markup (code points, from 0), sample. A word that
   * the voice speaks as one with the word before it has no pair.
   */
  readonly wordMarks: readonly number[]
}

/** Speaks utterances, several at a time. */
export interface Engine {
  /** How many utterances it works on at once. */
  readonly parallel: number
  readonly list: () => Promise<VoiceList>
  /** Rejects with a `ProblemError` when the engine cannot speak this request. */
  readonly speak: (request: EngineRequest) => Promise<Spoken>
  /** How a voice reads each of some short texts by itself, in IPA; missing where an engine does not tell. */
  readonly inIpa?: (voice: string, texts: readonly string[]) => Promise<readonly string[]>
  /** Why it could not speak each of some requests: sounds, voices or languages that it has not; null for those that it can. Nothing is spoken. */
  readonly examine?: (requests: readonly EngineRequest[]) => Promise<readonly (Problem | null)[]>
  readonly close: () => Promise<void>
}
