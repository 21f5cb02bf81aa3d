import type { Voice } from '#voices/port'
import type { Tier } from './settings'

/** A voice that the service sells. */
export interface SoldVoice {
  readonly id: string
  readonly name: string
  /** BCP 47 */
  readonly language: string
  readonly gender: Voice['gender']
  readonly tier: Tier
  readonly revision: string
  /** Words a minute as it speaks by itself. */
  readonly wordsPerMinute: number
}

interface MadeVoice extends SoldVoice {
  /** Colouring of the local voice of that language that speaks for it, by its place among the engine's; null for the voice as it is. */
  readonly colouring: number | null
  /** Brings it to the level of the local voices; measured on four to six sentences. */
  readonly gainDb: number
}

const revision = '1'

export const soldVoices: readonly MadeVoice[] = [
  { id: 'en-gb-linnet', name: 'Linnet', language: 'en-GB', gender: 'male', tier: 'plain', revision, wordsPerMinute: 165, colouring: null, gainDb: 0 },
  { id: 'en-gb-avocet', name: 'Avocet', language: 'en-GB', gender: 'female', tier: 'fine', revision, wordsPerMinute: 155, colouring: 1, gainDb: 0 },
  { id: 'en-us-siskin', name: 'Siskin', language: 'en-US', gender: 'female', tier: 'plain', revision, wordsPerMinute: 170, colouring: 3, gainDb: -0.69 },
  { id: 'de-wendehals', name: 'Wendehals', language: 'de', gender: 'male', tier: 'plain', revision, wordsPerMinute: 140, colouring: null, gainDb: 0 },
  { id: 'de-amsel', name: 'Amsel', language: 'de', gender: 'female', tier: 'fine', revision, wordsPerMinute: 140, colouring: 1, gainDb: 0 },
  { id: 'fr-fauvette', name: 'Fauvette', language: 'fr', gender: 'female', tier: 'fine', revision, wordsPerMinute: 160, colouring: 1, gainDb: -1.28 },
  { id: 'es-alondra', name: 'Alondra', language: 'es', gender: 'female', tier: 'plain', revision, wordsPerMinute: 160, colouring: 3, gainDb: -1.75 },
]
