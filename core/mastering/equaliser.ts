import { toSamples } from '../audio/pcm'
import type { Biquad } from './k-weighting'

/** A band of an equaliser: it raises or lowers what is around a frequency. */
export interface EqualiserBand {
  /** Hz */
  readonly hz: number
  readonly gainDb: number
  /** How narrow it is: 0.5 is two octaves and a half wide, 2 seven tenths of one. */
  readonly q: number
}

/** What is done to the sound of a voice before it is brought to its level. */
export interface Equaliser {
  /** What is lower is taken away, by 12 dB an octave, Hz; null takes nothing away. */
  readonly highPassHz: number | null
  readonly bands: readonly EqualiserBand[]
}

export const mostBands = 6
/** What can be asked for: Hz, dB either way, and Q. */
export const highPassRange = { least: 20, most: 300 } as const
export const bandRange = { least: 40, most: 10_000 } as const
export const mostGainDb = 12
export const qRange = { least: 0.3, most: 8 } as const

/** A gentle one to begin with: less rumble and mud, some more clearness (*common practice*, from memory). */
export const gentleEqualiser: Equaliser = { highPassHz: 80, bands: [{ hz: 250, gainDb: -2, q: 1 }, { hz: 3500, gainDb: 2, q: 0.8 }] }

/** Of a second-order filter without a bump (Butterworth). */
const flatQ = Math.SQRT1_2

/** From this share of the rate on a frequency is too near to what the rate can hold. */
const highest = 0.48

/** The filters of an equaliser at a rate (Hz), by the formulas of the Audio EQ Cookbook (W3C Group Note). A band that the rate cannot hold does nothing. */
export function filtersOf({ highPassHz, bands }: Equaliser, sampleRate: number): Biquad[] {
  const audible = bands.filter(({ hz, gainDb }) => gainDb !== 0 && hz < sampleRate * highest)
  return [...(highPassHz === null ? [] : [highPass(highPassHz, sampleRate)]), ...audible.map(band => peak(band, sampleRate))]
}

function highPass(hz: number, sampleRate: number): Biquad {
  const angle = 2 * Math.PI * hz / sampleRate
  const [cos, alpha] = [Math.cos(angle), Math.sin(angle) / (2 * flatQ)]
  return normalised([(1 + cos) / 2, -(1 + cos), (1 + cos) / 2], [1 + alpha, -2 * cos, 1 - alpha])
}

function peak({ hz, gainDb, q }: EqualiserBand, sampleRate: number): Biquad {
  const angle = 2 * Math.PI * hz / sampleRate
  const [cos, alpha, height] = [Math.cos(angle), Math.sin(angle) / (2 * q), 10 ** (gainDb / 40)]
  return normalised([1 + alpha * height, -2 * cos, 1 - alpha * height], [1 + alpha / height, -2 * cos, 1 - alpha / height])
}

function normalised([b0, b1, b2]: readonly [number, number, number], [a0, a1, a2]: readonly [number, number, number]): Biquad {
  return { b0: b0 / a0, b1: b1 / a0, b2: b2 / a0, a1: a1 / a0, a2: a2 / a0 }
}

/** What an equaliser does to a frequency (Hz) at a rate, dB. */
export function responseDb(equaliser: Equaliser, hz: number, sampleRate: number): number {
  const angle = 2 * Math.PI * hz / sampleRate
  const size = (first: number, second: number, third: number): number =>
    Math.hypot(first + second * Math.cos(angle) + third * Math.cos(2 * angle), second * Math.sin(angle) + third * Math.sin(2 * angle))
  return filtersOf(equaliser, sampleRate).reduce((sum, { b0, b1, b2, a1, a2 }) => sum + 20 * Math.log10(size(b0, b1, b2) / size(1, a1, a2)), 0)
}

/** Samples with an equaliser applied, in the same unit. What is before them counts as silence. */
export function equalised(samples: Int16Array, equaliser: Equaliser, sampleRate: number): Float64Array {
  const result = Float64Array.from(samples)
  for (const { b0, b1, b2, a1, a2 } of filtersOf(equaliser, sampleRate)) {
    let [x1, x2, y1, y2] = [0, 0, 0, 0]
    for (let at = 0; at < result.length; at += 1) {
      const x = result[at]!
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2
      ;[x2, x1, y2, y1] = [x1, x, y1, y]
      result[at] = y
    }
  }
  return result
}

/** The same as samples; as they are where there is no equaliser. */
export function throughEqualiser(samples: Int16Array, equaliser: Equaliser | null, sampleRate: number): Int16Array {
  return equaliser === null ? samples : toSamples(equalised(samples, equaliser, sampleRate))
}
