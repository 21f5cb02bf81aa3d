/** A filter of second order, normalised so that the first coefficient of its past output is 1. */
export interface Biquad {
  readonly b0: number
  readonly b1: number
  readonly b2: number
  readonly a1: number
  readonly a2: number
}

/**
 * The two filters of K-weighting at a rate (Hz): a shelf for the head, then a high-pass (ITU-R BS.1770-4, Annex 1). The standard gives
 * coefficients for 48 kHz only; these are the analogue filters that they come from, by the bilinear transform with pre-warping.
 */
export function kWeighting(sampleRate: number): readonly [Biquad, Biquad] {
  return [shelf(sampleRate), highPass(sampleRate)]
}

const shelfHz = 1681.974450955533
const shelfGainDb = 3.999843853973347
const shelfQ = 0.7071752369554196
/** Of the gain of the shelf, what the middle of its slope has. */
const shelfSlope = 0.4996667741545416

function shelf(sampleRate: number): Biquad {
  const k = Math.tan(Math.PI * shelfHz / sampleRate)
  const high = 10 ** (shelfGainDb / 20)
  const band = high ** shelfSlope
  const a0 = 1 + k / shelfQ + k * k
  return {
    b0: (high + band * k / shelfQ + k * k) / a0,
    b1: 2 * (k * k - high) / a0,
    b2: (high - band * k / shelfQ + k * k) / a0,
    a1: 2 * (k * k - 1) / a0,
    a2: (1 - k / shelfQ + k * k) / a0,
  }
}

const highPassHz = 38.13547087602444
const highPassQ = 0.5003270373238773

function highPass(sampleRate: number): Biquad {
  const k = Math.tan(Math.PI * highPassHz / sampleRate)
  const a0 = 1 + k / highPassQ + k * k
  return { b0: 1, b1: -2, b2: 1, a1: 2 * (k * k - 1) / a0, a2: (1 - k / highPassQ + k * k) / a0 }
}
