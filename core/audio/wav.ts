import { renderTrack, type Track } from './track'

export const wavHeaderBytes = 44

/** Header of a mono 16-bit PCM WAV file (RIFF WAVE, format tag 1). */
export function wavHeader(sampleCount: number, sampleRate: number): Uint8Array {
  const header = new Uint8Array(wavHeaderBytes)
  const view = new DataView(header.buffer)
  const text = (at: number, value: string): void => { header.set([...value].map(c => c.charCodeAt(0)), at) }
  text(0, 'RIFF')
  view.setUint32(4, 36 + sampleCount * 2, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * 2, true)
  view.setUint16(32, 2, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, sampleCount * 2, true)
  return header
}

/** Size of a track as a WAV file, in bytes. */
export function wavSize(track: Track): number {
  return wavHeaderBytes + track.sampleCount * 2
}

/**
 * The bytes of a track's WAV file from `from` up to `to`, made on demand: only the takes in that range are
 * loaded. Samples are written little-endian, as the platforms this runs on hold them.
 */
export async function* wavBytes(
  track: Track, load: (key: string) => Promise<Int16Array>, from = 0, to = wavSize(track),
): AsyncGenerator<Uint8Array> {
  if (from < wavHeaderBytes) yield wavHeader(track.sampleCount, track.sampleRate).subarray(from, Math.min(to, wavHeaderBytes))
  const first = Math.max(0, from - wavHeaderBytes)
  const last = to - wavHeaderBytes
  if (last <= first) return
  const firstSample = Math.floor(first / 2)
  let at = firstSample * 2
  for await (const samples of renderTrack(track, load, firstSample, Math.ceil(last / 2))) {
    const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength)
    // A range may begin or end in the middle of a sample.
    yield bytes.subarray(Math.max(0, first - at), Math.min(bytes.length, last - at))
    at += bytes.length
  }
}
