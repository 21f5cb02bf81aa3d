import { dbToFactor, msToSamples } from '../audio/pcm'
import { toDb } from './measure'
import { finePeakAt, isTop, magnitude } from './true-peak'

/** From the loudest place of a peak, the level comes back within twice this, ms. */
const reachMs = 20

/** What a sample can depend on before and after it, ms. */
export const limiterReachMs = reachMs * 2 + 1

export interface Limited {
  /** Where peaks were held, in samples from the beginning, one for each stretch that was turned down. */
  readonly places: readonly number[]
  /** The most that was taken away, dB. */
  readonly mostDb: number
}

/**
 * Holds peaks, between samples too, below a ceiling (dBFS), by turning the level down and up again evenly around them. Changes the samples (full scale is 1) in
 * place. Each sample depends only on what is near it, so that a piece of a track by itself is as in the whole.
 */
export function limit(samples: Float32Array, sampleRate: number, ceilingDb: number): Limited {
  const ceiling = dbToFactor(ceilingDb)
  const reach = msToSamples(reachMs, sampleRate)
  const peaks: Peak[] = []
  // What lies between two samples is no half as large again as both, in speech.
  const largeEnough = ceiling / 1.5
  for (let at = 0; at < samples.length; at += 1) {
    if (magnitude(samples[at]!) <= largeEnough || !isTop(samples, at)) continue
    const size = finePeakAt(samples, at)
    if (size > ceiling) peaks.push({ at, factor: ceiling / size })
  }
  const places: number[] = []
  let least = 1
  for (let first = 0; first < peaks.length;) {
    let last = first
    while (last + 1 < peaks.length && peaks[last + 1]!.at - peaks[last]!.at <= reach * 4) last += 1
    const group = peaks.slice(first, last + 1)
    turnDown(samples, group, reach)
    const loudest = group.reduce((most, each) => each.factor < most.factor ? each : most)
    places.push(loudest.at)
    least = Math.min(least, loudest.factor)
    first = last + 1
  }
  return { places, mostDb: places.length === 0 ? 0 : -toDb(least) }
}

interface Peak {
  readonly at: number
  /** What keeps it at the ceiling. */
  readonly factor: number
}

/** The least factor within reach of each place, made even by two running means that together are as wide: nowhere above what a peak needs. */
function turnDown(samples: Float32Array, group: readonly Peak[], reach: number): void {
  const from = group[0]!.at - reach * 2
  const held = new Float64Array(group.at(-1)!.at + reach * 2 - from + 1).fill(1)
  for (const { at, factor } of group) {
    for (let i = at - reach - from; i <= at + reach - from; i += 1) if (factor < held[i]!) held[i] = factor
  }
  const half = reach >> 1
  const even = runningMean(runningMean(held, half), half)
  const first = Math.max(0, -from)
  const end = Math.min(held.length, samples.length - from)
  for (let i = first; i < end; i += 1) samples[from + i] = samples[from + i]! * even[i]!
}

/** The mean of each value and so many on either side; outside there is 1. */
function runningMean(values: Float64Array, reach: number): Float64Array {
  const means = new Float64Array(values.length)
  const width = reach * 2 + 1
  let sum = width
  for (let i = -reach; i < values.length; i += 1) {
    sum += (values[i + reach] ?? 1) - (values[i - reach - 1] ?? 1)
    if (i >= 0) means[i] = sum / width
  }
  return means
}
