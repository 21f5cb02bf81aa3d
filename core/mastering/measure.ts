import { edgeLevelDb, fullScale, meanSquare } from '../audio/pcm'
import { kWeighting } from './k-weighting'
import { isTop, magnitude, truePeakAt } from './true-peak'

/** Level of what is all zeros, dBFS: less than 16 bits can hold. */
export const silenceDb = -120

/** Windows in which the course of the level is kept, ms. */
export const windowMs = 5

/** Blocks that loudness is gated by are made of these: a quarter of one, ms (ITU-R BS.1770-4). */
const stepMs = 100
const stepsInBlock = 4

/** The unit in which the level of a window is kept, dB below full scale. */
const levelStepDb = 0.5

/** What was measured of a stretch of mono audio. */
export interface Measure {
  /** Hz */
  readonly sampleRate: number
  readonly sampleCount: number
  /** Sum of the squares of all samples; full scale is 1. */
  readonly energy: number
  /** Largest magnitude of a sample; full scale is 1. */
  readonly samplePeak: number
  /** The same between samples too, four times oversampled. */
  readonly truePeak: number
  /** Where the largest sample is. */
  readonly peakSample: number
  /** Samples at full scale that follow another one there. */
  readonly clipped: number
  /** Mean K-weighted squares of each whole stretch of 100 ms. */
  readonly steps: Float32Array
  /** Level of each window of 5 ms, in half dB below full scale. */
  readonly levels: Uint8Array
}

export function toDb(factor: number): number {
  return factor <= 0 ? silenceDb : Math.max(silenceDb, 20 * Math.log10(factor))
}

export const powerDb = (power: number): number => power <= 0 ? silenceDb : Math.max(silenceDb, 10 * Math.log10(power))

/** Samples of a window at a rate (Hz). */
export const windowSamples = (sampleRate: number): number => Math.round(sampleRate * windowMs / 1000)

const stepSamples = (sampleRate: number): number => Math.round(sampleRate * stepMs / 1000)

/** Two samples of 16 bits in a row that are this large have been cut off, if there is more behind them. */
const clippedAt = 32_767

/** Measures samples from `from` up to `to`. Those before only bring the filters into the state that they have in the middle of a signal. */
export function measure(samples: Int16Array, sampleRate: number, from = 0, to = samples.length): Measure {
  const count = to - from
  const step = stepSamples(sampleRate)
  const window = windowSamples(sampleRate)
  const windows = Math.ceil(count / window)
  const levels = new Uint8Array(windows)
  const peaks = new Uint16Array(windows)
  let energy = 0
  let peak = 0
  let peakSample = 0
  let clipped = 0
  for (let index = 0; index < windows; index += 1) {
    const begin = from + index * window
    const end = Math.min(to, begin + window)
    let sum = 0
    let highest = 0
    let lowest = 0
    for (let i = begin; i < end; i += 1) {
      const sample = samples[i]!
      sum += sample * sample
      if (sample > highest) highest = sample
      else if (sample < lowest) lowest = sample
    }
    const largest = Math.max(highest, -lowest)
    peaks[index] = largest
    if (largest >= clippedAt) clipped += clippedIn(samples, Math.max(begin, from + 1), end)
    if (largest > peak) {
      peak = largest
      peakSample = firstOf(samples, largest, begin) - from
    }
    const power = sum / fullPower
    energy += power
    levels[index] = levelOf(power / (end - begin))
  }
  const truePeak = truePeakOf(samples, from, to, window, peaks, peak)
  return { sampleRate, sampleCount: count, energy, samplePeak: peak / fullScale, truePeak, peakSample, clipped, steps: weightedSquares(samples, sampleRate, from, to, step), levels }
}

const fullPower = fullScale * fullScale

/** What the level of a stretch is told by. */
export type LevelParts = Pick<Measure, 'sampleCount' | 'energy' | 'steps'>

/** Integrated loudness (LUFS), or RMS of the whole (dBFS). */
export type LevelKind = 'integrated' | 'rms'

/** Measures only what one level is told by. */
export function measureForLevel(samples: Int16Array, sampleRate: number, kind: LevelKind): LevelParts {
  const sampleCount = samples.length
  if (kind === 'rms') return { sampleCount, energy: meanSquare(samples, 0, sampleCount) * sampleCount / fullPower, steps: new Float32Array(0) }
  return { sampleCount, energy: 0, steps: weightedSquares(samples, sampleRate, 0, sampleCount, stepSamples(sampleRate)) }
}

/** One level of stretches that follow one another. With `dualMono` a mono signal counts as played on two speakers. */
export function levelBy(kind: LevelKind, stretches: readonly LevelParts[], dualMono: boolean): number {
  if (kind === 'integrated') return integrated(stretches.map(each => each.steps), dualMono)
  return powerDb(sum(stretches, each => each.energy) / Math.max(1, sum(stretches, each => each.sampleCount)))
}

/** Samples at full scale that follow another one there. */
function clippedIn(samples: Int16Array, from: number, to: number): number {
  let clipped = 0
  for (let i = from; i < to; i += 1) if (magnitude(samples[i]!) >= clippedAt && magnitude(samples[i - 1]!) >= clippedAt) clipped += 1
  return clipped
}

function firstOf(samples: Int16Array, size: number, from: number): number {
  let at = from
  while (magnitude(samples[at]!) !== size) at += 1
  return at
}

function levelOf(power: number): number {
  return power <= 0 ? 255 : Math.min(254, Math.max(0, Math.round(-10 * Math.log10(power) / levelStepDb)))
}

/** Added to every sample, of a full scale of 32,768: in digital silence the filters would die away to numbers that processors are slow with. */
const notQuiteSilence = 1e-9

/** Mean squares of K-weighted samples in each whole step. Both filters are written out, with numbers of their own: called for every sample, or with objects, they would take many times as long. */
function weightedSquares(samples: Int16Array, sampleRate: number, from: number, to: number, step: number): Float32Array {
  const [{ b0, b1, b2, a1, a2 }, { b1: d1, b2: d2, a1: c1, a2: c2 }] = kWeighting(sampleRate)
  const means = new Float32Array(Math.floor((to - from) / step))
  // Of each filter, what a sample adds to what is kept, without the way by its output: so each sample waits less for the one before.
  const [e1, e2] = [b1 - a1 * b0, b2 - a2 * b0]
  const [f1, f2] = [d1 - c1, d2 - c2]
  let p1 = 0
  let p2 = 0
  let q1 = 0
  let q2 = 0
  let begin = 0
  // What is before only brings the filters into their state.
  for (let index = -1; index < means.length; index += 1) {
    const end = from + (index + 1) * step
    let sum = 0
    for (let i = begin; i < end; i += 1) {
      const sample = samples[i]! + notQuiteSilence
      const shelved = b0 * sample + p1
      const heard = shelved + q1
      const p = e1 * sample - a1 * p1 + p2
      p2 = e2 * sample - a2 * p1
      p1 = p
      const q = f1 * shelved - c1 * q1 + q2
      q2 = f2 * shelved - c2 * q1
      q1 = q
      sum += heard * heard
    }
    if (index >= 0) means[index] = sum / step / fullPower
    begin = end
  }
  return means
}

/** Between samples nothing is looked for where they are much smaller than the largest: what lies between them is no half as large again in speech. */
const betweenFactor = 1.5

function truePeakOf(samples: Int16Array, from: number, to: number, window: number, peaks: Uint16Array, samplePeak: number): number {
  let peak = samplePeak
  for (let index = 0; index < peaks.length; index += 1) {
    if (peaks[index]! * betweenFactor <= peak) continue
    const end = Math.min(to, from + (index + 1) * window)
    for (let i = from + index * window; i < end; i += 1) {
      if (magnitude(samples[i]!) * betweenFactor > peak && isTop(samples, i)) peak = Math.max(peak, truePeakAt(samples, i))
    }
  }
  return peak / fullScale
}

/** Measures of the channels of one stretch as of the whole: levels are means, loudness is a sum (ITU-R BS.1770-4), peaks are those of the largest. */
export function combined(channels: readonly Measure[]): Measure {
  const [first] = channels as [Measure]
  if (channels.length === 1) return first
  const largest = channels.reduce((most, each) => each.samplePeak > most.samplePeak ? each : most)
  return {
    ...largest,
    energy: sum(channels, each => each.energy) / channels.length,
    truePeak: channels.reduce((most, each) => Math.max(most, each.truePeak), 0),
    clipped: sum(channels, each => each.clipped),
    steps: first.steps.map((_, index) => sum(channels, each => each.steps[index]!)),
    levels: first.levels.map((_, index) => Math.min(...channels.map(each => each.levels[index]!))),
  }
}

/** Measures of stretches that follow one another, as of one. */
export interface Measured {
  readonly sampleCount: number
  readonly rmsDb: number
  /** LUFS; `silenceDb` where nothing is loud enough to count. */
  readonly integratedDb: number
  readonly samplePeakDb: number
  readonly truePeakDb: number
  readonly clipped: number
}

/** The levels of stretches that follow one another. With `dualMono` a mono signal counts as played on two speakers: 3 dB louder. */
export function levelsOf(stretches: readonly Measure[], { dualMono = false } = {}): Measured {
  const sampleCount = sum(stretches, each => each.sampleCount)
  const most = (value: (each: Measure) => number): number => stretches.reduce((largest, each) => Math.max(largest, value(each)), 0)
  return {
    sampleCount,
    rmsDb: levelBy('rms', stretches, dualMono),
    integratedDb: levelBy('integrated', stretches, dualMono),
    samplePeakDb: toDb(most(each => each.samplePeak)),
    truePeakDb: toDb(most(each => each.truePeak)),
    clipped: sum(stretches, each => each.clipped),
  }
}

function sum<T>(stretches: readonly T[], value: (each: T) => number): number {
  return stretches.reduce((total, each) => total + value(each), 0)
}

/** Of loudness, what a K-weighted power of 1 has less than 0 LUFS. */
const offsetDb = -0.691
const absoluteGateDb = -70
const relativeGateDb = -10
const dualMonoDb = 10 * Math.log10(2)

/** Integrated loudness, LUFS, gated twice (ITU-R BS.1770-4, Annex 1). */
function integrated(stretches: readonly Float32Array[], dualMono: boolean): number {
  const blocks = blocksOf(stretches)
  const shift = offsetDb + (dualMono ? dualMonoDb : 0)
  const meanAbove = (gateDb: number): number => {
    const gate = 10 ** ((gateDb - shift) / 10)
    let total = 0
    let count = 0
    for (const power of blocks) {
      if (power <= gate) continue
      total += power
      count += 1
    }
    return count === 0 ? 0 : total / count
  }
  const first = meanAbove(absoluteGateDb)
  if (first === 0) return silenceDb
  return powerDb(meanAbove(Math.max(absoluteGateDb, powerDb(first) + shift + relativeGateDb))) + shift
}

/** Mean powers of blocks of 400 ms, one every 100 ms. */
function blocksOf(stretches: readonly Float32Array[]): Float64Array {
  const length = stretches.reduce((total, each) => total + each.length, 0)
  const steps = new Float64Array(length)
  let at = 0
  for (const each of stretches) {
    steps.set(each, at)
    at += each.length
  }
  // What is shorter than a block is one.
  if (length < stepsInBlock) return length === 0 ? new Float64Array(0) : Float64Array.of(steps.reduce((a, b) => a + b, 0) / length)
  const blocks = new Float64Array(length - stepsInBlock + 1)
  for (let i = 0; i < blocks.length; i += 1) blocks[i] = (steps[i]! + steps[i + 1]! + steps[i + 2]! + steps[i + 3]!) / stepsInBlock
  return blocks
}

/** A stretch of quiet, in samples from the beginning. */
export interface Quiet {
  readonly start: number
  readonly end: number
}

/** Stretches of at least `leastMs` in which no window reaches a level (dBFS), of stretches that follow one another. */
export function quietIn(stretches: readonly Measure[], leastMs: number, belowDb: number = edgeLevelDb): Quiet[] {
  const found: Quiet[] = []
  const quietest = -belowDb / levelStepDb
  let start: number | null = null
  let at = 0
  const end = (): void => {
    if (start !== null && stretches.length > 0 && at - start >= leastMs * stretches[0]!.sampleRate / 1000) found.push({ start, end: at })
    start = null
  }
  for (const { levels, sampleRate, sampleCount } of stretches) {
    const window = windowSamples(sampleRate)
    const begin = at
    levels.forEach((level, index) => {
      at = begin + index * window
      if (level > quietest) start ??= at
      else end()
    })
    at = begin + sampleCount
  }
  end()
  return found
}

/** RMS of the quietest `ms` that follow one another, dBFS: what is heard where nobody speaks. */
export function noiseFloorDb(stretches: readonly Measure[], ms = 500): number {
  const windows = stretches.reduce((total, { levels }) => total + levels.length, 0)
  const count = Math.min(windows, Math.max(1, Math.round(ms / windowMs)))
  const recent = new Float64Array(count)
  let total = 0
  let least = Infinity
  let index = 0
  for (const { levels } of stretches) {
    for (let at = 0; at < levels.length; at += 1) {
      const power = powerOfLevel[levels[at]!]!
      total += power - recent[index % count]!
      recent[index % count] = power
      index += 1
      if (index >= count && total < least) least = total
    }
  }
  return least === Infinity ? silenceDb : powerDb(Math.max(0, least) / count)
}

/** Mean squares of a window by its level. */
const powerOfLevel = Float64Array.from({ length: 256 }, (_, level) => level === 255 ? 0 : 10 ** (-level * levelStepDb / 10))
