import { resample } from '#core/audio/resample'
import { KeptSamples } from './kept-samples'
import type { TakeRecord } from './take'

/** Samples of takes at rates that are not their own. */
const kept = new KeptSamples()

/** The samples of a take at a rate (Hz). Each take is resampled by itself, and so always gives the same. */
export function atRate({ sampleRate, checksum, sampleCount, pack, offset }: TakeRecord, samples: Int16Array, rate: number): Int16Array {
  if (sampleRate === rate) return samples
  const name = `${pack} ${offset} ${sampleCount} ${checksum} ${rate}`
  return kept.get(name) ?? kept.put(name, resample(samples, sampleRate, rate))
}
