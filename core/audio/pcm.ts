/** Mono audio, signed 16 bit. */
export interface Pcm {
  readonly samples: Int16Array
  /** Hz */
  readonly sampleRate: number
}

/** The number of samples nearest to a length in ms. */
export function msToSamples(ms: number, sampleRate: number): number {
  return Math.round(ms * sampleRate / 1000)
}

export function samplesToMs(samples: number, sampleRate: number): number {
  return samples * 1000 / sampleRate
}

export function dbToFactor(db: number): number {
  return 10 ** (db / 20)
}

/** Magnitude of the largest sample of 16 bits. */
export const fullScale = 32_768

/** Where speech begins and ends: the first and last window at or above this level, dBFS. */
export const edgeLevelDb = -46
const windowMs = 5
const fadeMs = 2

/** Where to cut speech in two so that the quiet around a place goes: the end of the first piece, and the beginning of the second. */
export function quietAround({ samples, sampleRate }: Pcm, at: number): { readonly end: number, readonly start: number } {
  const window = msToSamples(windowMs, sampleRate)
  const threshold = (dbToFactor(edgeLevelDb) * fullScale) ** 2
  let end = Math.max(0, Math.min(samples.length, at))
  while (end > window && meanSquare(samples, end - window, end) < threshold) end -= window
  let start = Math.max(0, Math.min(samples.length, at))
  while (start < samples.length - window && meanSquare(samples, start, start + window) < threshold) start += window
  return { end, start }
}

/** Fades the samples in or out over the first or last `fadeMs`, so that a cut never clicks. Changes them in place. */
export function fadeEdge(samples: Int16Array, sampleRate: number, edge: 'in' | 'out'): void {
  const fade = Math.min(samples.length, msToSamples(fadeMs, sampleRate))
  for (let i = 0; i < fade; i += 1) {
    const at = edge === 'in' ? i : samples.length - 1 - i
    samples[at] = Math.round(samples[at]! * i / fade)
  }
}

/**
 * Speech without the silence at its edges, with a short fade at each so that a cut never clicks. Gives no
 * samples when nothing reaches the edge level.
 */
export function trimEdges({ samples, sampleRate }: Pcm): { samples: Int16Array, offset: number } {
  const window = msToSamples(windowMs, sampleRate)
  const threshold = (dbToFactor(edgeLevelDb) * fullScale) ** 2
  let start = 0
  while (start < samples.length && meanSquare(samples, start, start + window) < threshold) start += window
  if (start >= samples.length) return { samples: new Int16Array(0), offset: 0 }
  let end = samples.length
  while (meanSquare(samples, end - window, end) < threshold) end -= window
  const fade = msToSamples(fadeMs, sampleRate)
  start = Math.max(0, start - fade)
  end = Math.min(samples.length, end + fade)
  const trimmed = samples.slice(start, end)
  fadeEdge(trimmed, sampleRate, 'in')
  fadeEdge(trimmed, sampleRate, 'out')
  return { samples: trimmed, offset: start }
}

/** The samples in bytes, two each, the lower first; a last single byte is left. */
export function samplesOf(bytes: Uint8Array): Int16Array {
  return new Int16Array(new Uint8Array(bytes.subarray(0, bytes.length - bytes.length % 2)).buffer)
}

/** Pieces one after the other. */
export function joined(pieces: readonly Int16Array[]): Int16Array {
  const all = new Int16Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
  let at = 0
  for (const piece of pieces) {
    all.set(piece, at)
    at += piece.length
  }
  return all
}

/** Mean of the squares of samples from one place up to another; 0 where there are none. */
export function meanSquare(samples: Int16Array, from: number, to: number): number {
  const start = Math.max(0, from)
  const end = Math.min(samples.length, to)
  let sum = 0
  for (let i = start; i < end; i += 1) sum += samples[i]! * samples[i]!
  return end > start ? sum / (end - start) : 0
}

/** Gives memory for so many samples; what is in it is left from before. */
export type SampleMemory = (count: number) => Int16Array

export const ownMemory: SampleMemory = count => new Int16Array(count)

/** The samples times a gain that goes evenly from one to another over the first samples of a piece; `offset` is where in it they begin. */
export function rampGain(samples: Int16Array, fromDb: number, toDb: number, offset: number, rampSamples: number): Int16Array {
  const left = Math.max(0, Math.min(samples.length, rampSamples - offset))
  const result = new Int16Array(samples.length)
  const [from, to] = [dbToFactor(fromDb), dbToFactor(toDb)]
  for (let i = 0; i < left; i += 1) {
    const factor = from + (to - from) * (offset + i) / rampSamples
    result[i] = Math.max(-32_768, Math.min(32_767, Math.round(samples[i]! * factor)))
  }
  result.set(applyGain(samples.subarray(left), toDb), left)
  return result
}

/** The samples times a gain, in memory that is given or their own; what would pass full scale stays at full scale. */
export function applyGain(samples: Int16Array, gainDb: number, memory: SampleMemory = ownMemory): Int16Array {
  if (gainDb === 0) return samples
  const factor = dbToFactor(gainDb)
  const result = memory(samples.length)
  for (let i = 0; i < samples.length; i += 1) {
    const loud = samples[i]! * factor
    const held = loud > 32_767 ? 32_767 : loud < -32_768 ? -32_768 : loud
    // Math.round, which is slow here: to the nearest, halves up, because what is cut off is positive.
    result[i] = ((held + 32_768.5) | 0) - 32_768
  }
  return result
}

/** Largest magnitude in each of `count` equal stretches, 0…1: enough to draw a waveform. */
export function peaks(samples: Int16Array, count: number): number[] {
  return Array.from({ length: count }, (_, index) => {
    const from = Math.floor(index * samples.length / count)
    const to = Math.floor((index + 1) * samples.length / count)
    let peak = 0
    for (let i = from; i < to; i += 1) peak = Math.max(peak, Math.abs(samples[i]!))
    return peak / fullScale
  })
}

/** As samples: rounded, and what would pass full scale stays there. */
export function toSamples(values: Float64Array): Int16Array {
  return Int16Array.from(values, value => Math.max(-32_768, Math.min(32_767, Math.round(value))))
}
