import type { Voice, VoiceVariant } from '../port'
import { capabilities } from './capabilities'

/** A voice as the engine lists it. */
export interface RawVoice {
  readonly name: string
  readonly language: string
  readonly identifier: string
  readonly gender: Voice['gender']
}

export interface ListedVoice {
  readonly identifier: string
  readonly voice: Omit<Voice, 'revision'>
}

export interface EngineVoices {
  readonly version: string
  readonly voices: readonly ListedVoice[]
  readonly variants: readonly VoiceVariant[]
}

/** A voice's id is its language; where several voices have the same, the later ones take the name of their file. */
export function listedVoices(list: readonly RawVoice[]): ListedVoice[] {
  const seen = new Set<string>()
  return list.map(({ name, language, identifier, gender }) => {
    const tag = language.toLowerCase()
    const id = seen.has(tag) ? identifier.replace(/^.*\//u, '').toLowerCase() : tag
    seen.add(id)
    return { identifier, voice: { engine: capabilities.id, id, name, language: properTags[tag] ?? language, gender } }
  })
}

export function listedVariants(list: readonly RawVoice[]): VoiceVariant[] {
  return list.map(({ name, identifier, gender }) => ({ engine: capabilities.id, id: identifier.replace(/^!v\//u, ''), name, gender }))
}

/** Languages that the engine calls by no tag of BCP 47. */
const properTags: Readonly<Record<string, string>> = { 'chr-us-qaaa-x-west': 'chr-Qaaa-US-x-west', 'en-us-nyc': 'en-US-x-nyc', 'piqd': 'und-Piqd' }
