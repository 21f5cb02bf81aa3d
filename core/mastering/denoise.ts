import FFT from 'fft.js'
import { dbToFactor, fullScale, meanSquare, msToSamples, toSamples } from '../audio/pcm'
import { toDb } from './measure'

/** By how much noise can be lowered, dB, and how much of it is usual: more is heard in the voice (*common practice*, from memory). */
export const denoiseRange = { least: 3, most: 30 } as const
export const usualDenoiseDb = 12

/** The noise of a recording is what it has in its quietest steady stretch of this length, ms, which is looked for in steps: rests between sentences are longer. */
const quietestMs = 300
const stepMs = 50

/** A quieter step has no noise that could be heard: it was cut out, or made by a machine; dBFS. */
const silentDb = -80

/** The steps of a stretch of noise differ by less than this, dB; those of soft speech by more. */
const steadyDb = 6

/** Noise is quieter than the whole recording by at least this, dB. A recording without such a stretch, as most music, has none that could be told from it. */
const leastBelowDb = 15

/** The spectrum is taken of frames of about this length, ms, each of which begins a quarter of one after the other. */
const frameMs = 46
const hopsInFrame = 4

/** How much of what was found of the voice in the frame before counts: it keeps what is left of the noise from tinkling. */
const smoothing = 0.98

/** Noise is taken for so much stronger than it was measured: its quietest stretch is quieter than the others (Berouti, Schwartz and Makhoul, 1979). */
const overestimate = 2

/** What a recording has where nobody speaks. */
export interface Noise {
  /** Mean level, dBFS. */
  readonly levelDb: number
  /** Mean power in each band of a frame. */
  readonly powers: Float64Array
}

/** Takes the spectra of frames, and gives back the samples of such. */
class Spectra {
  readonly size: number
  readonly hop: number
  readonly bands: number
  readonly spectrum: number[]
  readonly #window: Float64Array
  readonly #frame: Float64Array
  readonly #fft: FFT
  readonly #back: number[]

  constructor(sampleRate: number) {
    this.size = 2 ** Math.round(Math.log2(msToSamples(frameMs, sampleRate)))
    this.hop = this.size / hopsInFrame
    this.bands = this.size / 2 + 1
    this.#fft = new FFT(this.size)
    this.spectrum = this.#fft.createComplexArray()
    this.#back = this.#fft.createComplexArray()
    this.#frame = new Float64Array(this.size)
    // The root of a Hann window, once before and once behind: frames that overlap add up to what they were.
    this.#window = Float64Array.from({ length: this.size }, (_, at) => Math.sin(Math.PI * at / this.size))
  }

  /** Takes the spectrum of the frame that begins at a sample; there is silence around the samples. */
  take(samples: Int16Array, from: number): void {
    for (let at = 0; at < this.size; at += 1) this.#frame[at] = (samples[from + at] ?? 0) * this.#window[at]!
    this.#fft.realTransform(this.spectrum, this.#frame)
  }

  /** Power of a band of the spectrum. */
  power(band: number): number {
    return this.spectrum[2 * band]! ** 2 + this.spectrum[2 * band + 1]! ** 2
  }

  scale(band: number, factor: number): void {
    this.spectrum[2 * band]! *= factor
    this.spectrum[2 * band + 1]! *= factor
  }

  /** Adds the samples of the spectrum to others. */
  addTo(sums: Float64Array): void {
    this.#fft.completeSpectrum(this.spectrum)
    this.#fft.inverseTransform(this.#back, this.spectrum)
    for (let at = 0; at < this.size; at += 1) sums[at]! += this.#back[2 * at]! * this.#window[at]! * 2 / hopsInFrame
  }
}

/** The noise of a recording, by its quietest steady stretch; null where none can be told from the rest. */
export function noiseOf(samples: Int16Array, sampleRate: number): Noise | null {
  const length = msToSamples(quietestMs, sampleRate)
  const from = quietest(samples, sampleRate)
  if (from === null) return null
  const levelDb = rmsDb(samples, from, from + length)
  if (levelDb > rmsDb(samples) - leastBelowDb) return null
  const spectra = new Spectra(sampleRate)
  const sums = new Float64Array(spectra.bands)
  let frames = 0
  for (let at = from; at + spectra.size <= from + length; at += spectra.hop) {
    spectra.take(samples, at)
    for (let band = 0; band < spectra.bands; band += 1) sums[band]! += spectra.power(band)
    frames += 1
  }
  return { levelDb, powers: sums.map((_, band) => meanAround(sums, band) * overestimate / frames) }
}

/** Where the quietest steady stretch of noise begins; null where there is none. */
function quietest(samples: Int16Array, sampleRate: number): number | null {
  const step = msToSamples(stepMs, sampleRate)
  const steps = Math.round(quietestMs / stepMs)
  const least = (dbToFactor(silentDb) * fullScale) ** 2
  const steady = dbToFactor(steadyDb) ** 2
  let found: { readonly from: number, readonly power: number } | null = null
  const powers: number[] = []
  for (let from = 0; from + step <= samples.length; from += step) {
    powers.push(meanSquare(samples, from, from + step))
    const last = powers.slice(-steps)
    const quietestStep = Math.min(...last)
    if (last.length < steps || quietestStep < least || Math.max(...last) > quietestStep * steady) continue
    const power = last.reduce((sum, each) => sum + each, 0)
    if (found === null || power < found.power) found = { from: from + step - steps * step, power }
  }
  return found?.from ?? null
}

const rmsDb = (samples: Int16Array, from = 0, to = samples.length): number => toDb(Math.sqrt(meanSquare(samples, from, to)) / fullScale)

/** Mean of a band and its neighbours: the stretch is too short to tell each by itself. */
function meanAround(values: Float64Array, band: number): number {
  const around = values.subarray(Math.max(0, band - 1), band + 2)
  return around.reduce((sum, each) => sum + each, 0) / around.length
}

/** Bands without any noise are divided by this. */
const leastPower = 1e-6

/**
 * A recording with its noise lowered, by so many dB at most, and as long as it was. Each band of each frame is lowered as far as it holds noise: by the filter of Wiener, with the ratio of
 * voice to noise as Ephraim and Malah estimate it (1984, “Speech enhancement using a minimum mean-square error short-time spectral amplitude estimator”, equation 51).
 */
export function withoutNoise(samples: Int16Array, sampleRate: number, { powers }: Noise, byDb: number): Int16Array {
  const spectra = new Spectra(sampleRate)
  const { size, hop, bands } = spectra
  const least = dbToFactor(-byDb)
  const cleaned = new Int16Array(samples.length)
  const sums = new Float64Array(size)
  /** Ratio of voice to noise in each band of the frame before. */
  const before = new Float64Array(bands)
  for (let from = hop - size; from < samples.length; from += hop) {
    spectra.take(samples, from)
    for (let band = 0; band < bands; band += 1) {
      const ratio = spectra.power(band) / Math.max(leastPower, powers[band]!)
      const voice = smoothing * before[band]! + (1 - smoothing) * Math.max(0, ratio - 1)
      const gain = Math.max(least, voice / (1 + voice))
      before[band] = gain * gain * ratio
      spectra.scale(band, gain)
    }
    spectra.addTo(sums)
    // No later frame reaches the first quarter.
    const finished = toSamples(sums.subarray(Math.max(0, -from), Math.min(hop, samples.length - from)))
    cleaned.set(finished, Math.max(0, from))
    sums.copyWithin(0, hop)
    sums.fill(0, size - hop)
  }
  return cleaned
}

/** The same with the noise that the recording has; as it is where it has none. */
export function denoised(samples: Int16Array, sampleRate: number, byDb: number): Int16Array {
  const noise = noiseOf(samples, sampleRate)
  return noise === null ? samples : withoutNoise(samples, sampleRate, noise, byDb)
}
