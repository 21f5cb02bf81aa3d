import type { About } from '#core/health'
import type { Problem } from '#core/problem'
import type { EngineCapabilities, EngineId } from '#core/score/cast'
import type { EngineRequest, WriteRequest } from '#core/score/request'
import type { VoicePrice } from '#core/estimate/price'
import type { Accounts, Purpose } from './paid/accounts'

/** A voice of an engine, as data. */
export interface Voice {
  readonly engine: EngineId
  /** Unique in its engine, stable. */
  readonly id: string
  readonly name: string
  /** BCP 47 */
  readonly language: string
  readonly gender: 'female' | 'male' | 'unknown'
  /** What there is to know before it is chosen, such as that it knows a few words only. */
  readonly warning?: string
  /** Of a paid voice, as its service calls it. */
  readonly tier?: string
  /** Of a paid voice, beyond the characters that are free. */
  readonly price?: VoicePrice
  /** Goes into every key: changes when equal requests may sound different. */
  readonly revision: string
}

/** A colouring of any voice of an engine: its id follows the voice's after a plus sign. */
export interface VoiceVariant {
  readonly engine: EngineId
  readonly id: string
  readonly name: string
  readonly gender: Voice['gender']
}

export interface VoiceList {
  readonly voices: readonly Voice[]
  readonly variants: readonly VoiceVariant[]
}

/** Audio of one utterance, trimmed to its speech. */
export interface Spoken {
  readonly samples: Int16Array
  /** Hz */
  readonly sampleRate: number
  /**
   * Where words begin, as pairs in one list: place in what was sent, as its engine counts, sample. A word that
   * the voice speaks as one with the word before it has no pair.
   */
  readonly wordMarks: readonly number[]
}

/** An utterance that is wanted, with the key of its take. */
export interface AskedUtterance {
  readonly key: string
  readonly request: EngineRequest
  /** What it is read for; null for a trial. */
  readonly purpose: Purpose | null
}

/** What an engine is asked at one go. */
export interface Question {
  /** Keys of the takes that it gives. */
  readonly keys: readonly string[]
  /** What was spoken for each key, or why it could not be. Rejects with a `ProblemError` that holds for all of them. */
  readonly ask: () => Promise<ReadonlyMap<string, Spoken | Problem>>
}

/** Speaks utterances, several at a time. */
export interface Engine {
  /** How many utterances it works on at once. */
  readonly parallel: number
  readonly list: () => Promise<VoiceList>
  /** Its name and version, and how many voices it has, with a remedy where it works less well than it could: what the Health page shows. Rejects with a `ProblemError` when it does not work. */
  readonly about: () => Promise<About>
  /** Rejects with a `ProblemError` when the engine cannot speak this request. */
  readonly speak: (request: EngineRequest) => Promise<Spoken>
  /** For an engine that is better asked for several utterances at once: divides what is wanted into questions. Rejects with a `ProblemError` when it cannot be asked at all. */
  readonly questions?: (wanted: readonly AskedUtterance[]) => Promise<readonly Question[]>
  /** How a voice reads each of some short texts by itself, in IPA; missing where an engine does not tell. */
  readonly inIpa?: (voice: string, texts: readonly string[]) => Promise<readonly string[]>
  /** Why it could not speak each of some requests: sounds, voices or languages that it has not; null for those that it can. Nothing is spoken. */
  readonly examine?: (requests: readonly EngineRequest[]) => Promise<readonly (Problem | null)[]>
  readonly close: () => Promise<void>
}

export interface EngineOptions {
  /** Folder of the bundled programs, where an engine has its children. */
  readonly programs: string
  /** Utterances that it may work on at once. */
  readonly parallel: number
  /** An utterance may take so long. */
  readonly timeoutMs?: number
  /** A service is first asked again after so long, ms. */
  readonly firstWaitMs?: number
  /** Of the paid engines; those that the environment names without it. */
  readonly accounts?: Accounts
}

/** All that there is to know of an engine: one folder, and one line of the registry. */
export interface EngineKind {
  readonly capabilities: EngineCapabilities
  /** How a request is written, where places and words lie in it, and its key. */
  readonly write: WriteRequest
  /** What of a request is sent between two of its places, for whoever asks why something is said as it is. */
  readonly excerpt: (request: EngineRequest, from: number, to: number) => string
  /** Language (BCP 47) of a voice, by its id; null where the id does not tell. */
  readonly languageOf: (voice: string) => string | null
  /** Whether some letters of a text would be passed over, though most are those of the voice's language; missing where none are. */
  readonly losesLetters?: (text: string) => boolean
  readonly open: (options: EngineOptions) => Engine
}
