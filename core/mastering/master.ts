import { dbToFactor, fullScale } from '../audio/pcm'
import { equalised, type Equaliser } from './equaliser'
import { limit, type Limited } from './limiter'

/** What is done to audio: an equaliser where one is asked for, one gain, and peaks held where they would pass a ceiling. */
export interface Mastering {
  readonly equaliser: Equaliser | null
  readonly gainDb: number
  /** dBFS; null where nothing is held. */
  readonly ceilingDb: number | null
}

const nothingHeld: Limited = { places: [], mostDb: 0 }

/** Samples as they are encoded, written into `levelled`; full scale is 1. */
export function master(samples: Int16Array, sampleRate: number, { equaliser, gainDb, ceilingDb }: Mastering, levelled: Float32Array = new Float32Array(samples.length)): { readonly samples: Float32Array, readonly limited: Limited } {
  const factor = dbToFactor(gainDb) / fullScale
  const source = equaliser === null ? samples : equalised(samples, equaliser, sampleRate)
  for (let i = 0; i < samples.length; i += 1) levelled[i] = source[i]! * factor
  return { samples: levelled, limited: ceilingDb === null ? nothingHeld : limit(levelled, sampleRate, ceilingDb) }
}
