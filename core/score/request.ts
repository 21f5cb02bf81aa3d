import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import type { Casting, EngineId } from './cast'

/** Everything an engine is told about one utterance, and nothing else. */
export interface EngineRequest {
  readonly engine: EngineId
  readonly voice: string
  readonly voiceRevision: string
  readonly wordsPerMinute: number
  readonly pitchSemitones: number
  /** The exact markup sent: see `markup.ts`. */
  readonly markup: string
}

export function requestFor(casting: Casting, markup: string): EngineRequest {
  const { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones } = casting
  return { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, markup }
}

/** The key of an utterance's takes: SHA-256 (hex) over the request. Equal keys have equal audio. */
export function keyOf(request: EngineRequest): string {
  return hash([
    request.engine, request.voice, request.voiceRevision,
    request.wordsPerMinute, request.pitchSemitones, request.markup,
  ])
}

/** SHA-256 (hex) over the JSON of a value. The order of keys does not count: a database may change it. */
export function hash(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(value, sortKeys))))
}

function sortKeys(_: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => a < b ? -1 : 1))
}
