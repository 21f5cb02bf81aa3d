/** Samples at one rate (Hz) for so many at another. */
export function resampledCount(count: number, from: number, to: number): number {
  return from === to ? count : Math.round(count * to / from)
}

/** Half the width of the filter, in samples of the lower rate: the transition from what passes to what does not is about a fifth of it. */
const halfWidth = 24
/** Of the window: the stop band is 80 dB down (Kaiser 1974, *from memory*). */
const beta = 8
/** What passes, as a share of half the lower rate. */
const passband = 0.95

/**
 * Samples at another rate, by a windowed sinc for each place of the output: deterministic, and alone. Linear in phase; `resampledCount` says how many there are.
 * Filters are kept by their rates, one for each phase that occurs.
 */
export function resample(samples: Int16Array, from: number, to: number): Int16Array {
  if (from === to) return samples
  const { step, phases, taps, reach } = filterFor(from, to)
  const padded = new Float64Array(samples.length + taps * 2)
  padded.set(samples, taps)
  const result = new Int16Array(resampledCount(samples.length, from, to))
  for (let i = 0; i < result.length; i += 1) {
    const phase = i * step.from % step.to
    const first = (i * step.from - phase) / step.to - reach + 1 + taps
    const weights = phases[phase]!
    let sum = 0
    for (let tap = 0; tap < taps; tap += 1) sum += padded[first + tap]! * weights[tap]!
    result[i] = Math.max(-32_768, Math.min(32_767, Math.round(sum)))
  }
  return result
}

interface Filter {
  /** The rates without what they have in common. */
  readonly step: { readonly from: number, readonly to: number }
  /** Weights for each place of an output sample between two of the input. */
  readonly phases: readonly Float64Array[]
  readonly taps: number
  readonly reach: number
}

const filters = new Map<string, Filter>()

function filterFor(from: number, to: number): Filter {
  const name = `${from} ${to}`
  let filter = filters.get(name)
  if (filter === undefined) {
    filter = makeFilter(from, to)
    filters.set(name, filter)
  }
  return filter
}

function makeFilter(from: number, to: number): Filter {
  const common = divisor(from, to)
  const step = { from: from / common, to: to / common }
  /** Of half the input's rate. */
  const cutoff = Math.min(1, to / from) * passband
  const reach = Math.ceil(halfWidth / Math.min(1, to / from))
  const taps = reach * 2
  const phases = Array.from({ length: step.to }, (_, phase) => {
    const weights = Float64Array.from({ length: taps }, (__, tap) => {
      const distance = tap - reach + 1 - phase / step.to
      return cutoff * sinc(cutoff * distance) * kaiser(distance / reach)
    })
    // Every phase lets a constant pass as it is.
    const sum = weights.reduce((total, weight) => total + weight, 0)
    return weights.map(weight => weight / sum)
  })
  return { step, phases, taps, reach }
}

function divisor(a: number, b: number): number {
  return b === 0 ? a : divisor(b, a % b)
}

function sinc(x: number): number {
  return x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)
}

function kaiser(x: number): number {
  return Math.abs(x) >= 1 ? 0 : bessel(beta * Math.sqrt(1 - x * x)) / bessel(beta)
}

/** Modified Bessel function of the first kind, order 0, by its series. */
function bessel(x: number): number {
  let [sum, term] = [1, 1]
  for (let k = 1; term > sum * 1e-12; k += 1) {
    term *= (x / (2 * k)) ** 2
    sum += term
  }
  return sum
}
