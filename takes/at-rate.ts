import { LRUCache } from 'lru-cache'
import { resample } from '#core/audio/resample'
import type { TakeRecord } from './take'

/** Samples of takes at rates that are not their own, kept while there is room: 64 MB. */
const mostBytes = 64 * 1024 * 1024
const kept = new LRUCache<string, Int16Array>({ maxSize: mostBytes, sizeCalculation: samples => Math.max(1, samples.byteLength) })

/** The samples of a take at a rate (Hz). Each take is resampled by itself, and so always gives the same. */
export function atRate({ sampleRate, checksum, sampleCount, pack, offset }: TakeRecord, samples: Int16Array, rate: number): Int16Array {
  if (sampleRate === rate) return samples
  const name = `${pack} ${offset} ${sampleCount} ${checksum} ${rate}`
  const known = kept.get(name)
  if (known !== undefined) return known
  const made = resample(samples, sampleRate, rate)
  kept.set(name, made)
  return made
}
