import { createHash } from 'node:crypto'
import { execFileSync } from 'node:child_process'
import { joined as joinedPieces } from '#core/audio/pcm'

/** Samples of an audio file as ffmpeg decodes them, mono, at the file's own rate. */
export function decode(path: string): Int16Array {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-map', '0:a', '-f', 's16le', '-ac', '1', '-'], { maxBuffer: 1 << 30 })
  return new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1)
}

/** What ffprobe says of a file. */
export function probe(path: string): { streams: Record<string, string>[], format: { tags?: Record<string, string> } } {
  return JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path], { encoding: 'utf8' })) as ReturnType<typeof probe>
}

/** Samples one after the other. */
export const joined = (...pieces: readonly Int16Array[]): Int16Array => joinedPieces(pieces)

export function rmsDb(samples: Int16Array): number {
  const sum = samples.reduce((total, sample) => total + sample * sample, 0)
  return 10 * Math.log10(sum / samples.length / 32_768 ** 2)
}

/** Level of speech without its pauses, dB: that of the windows of 50 ms that are at most 10 dB below the mean (the gate of ITU-R BS.1770, unweighted). */
export function levelDb(all: readonly Int16Array[], sampleRate: number): number {
  const size = Math.round(sampleRate / 20)
  const powers = all.flatMap(samples => Array.from({ length: Math.floor(samples.length / size) }, (_, index) => 10 ** (rmsDb(samples.subarray(index * size, (index + 1) * size)) / 10)))
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length
  const gate = mean(powers.filter(power => power > 1e-7)) / 10
  return 10 * Math.log10(mean(powers.filter(power => power > gate)))
}

/** The stretch around a sample in which 1 ms windows stay below a level, as a length in ms. */
export function quietMs(samples: Int16Array, around: number, sampleRate: number, levelDb: number): number {
  const window = Math.round(sampleRate / 1000)
  const isLoud = (from: number): boolean => rmsDb(samples.subarray(Math.max(0, from), from + window)) >= levelDb
  let start = around
  while (start > 0 && !isLoud(start - window)) start -= window
  let end = around
  while (end < samples.length - window && !isLoud(end)) end += window
  return (end - start) / sampleRate * 1000
}

/** Median fundamental frequency of the voiced frames, Hz, by autocorrelation. */
export function pitchHz(samples: Int16Array, sampleRate: number): number {
  const size = 1024
  const found: number[] = []
  for (let at = 0; at + 2 * size < samples.length; at += size) {
    const energy = correlate(samples, at, at, size)
    if (energy / size < 1e6) continue
    let best = 0
    let bestLag = 0
    for (let lag = Math.round(sampleRate / 300); lag < sampleRate / 55; lag += 1) {
      const value = correlate(samples, at, at + lag, size) / Math.sqrt(energy * correlate(samples, at + lag, at + lag, size))
      if (value > best) [best, bestLag] = [value, lag]
    }
    if (best > 0.7) found.push(sampleRate / bestLag)
  }
  return found.sort((a, b) => a - b)[found.length >> 1]!
}

function correlate(samples: Int16Array, a: number, b: number, size: number): number {
  let sum = 0
  for (let i = 0; i < size; i += 1) sum += samples[a + i]! * samples[b + i]!
  return sum
}

/** Equal for equal samples. */
export function digest(samples: Int16Array): string {
  return createHash('sha256').update(Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)).digest('hex')
}
