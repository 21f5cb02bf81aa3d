import { renderTrack, type PlayableTrack, type Track } from './track'

/** The sizes in a RIFF file have 32 bits; what is longer is written as RF64. */
const largestRiffBytes = 2 ** 32 - 1

const riffHeaderBytes = 44
/** The `ds64` chunk: its head, three sizes of 64 bits, and an empty table. */
const ds64Bytes = 8 + 28

const isLong = (sampleCount: number): boolean => riffHeaderBytes - 8 + sampleCount * 2 > largestRiffBytes

/** Length of the header of a WAV file of so many samples. */
export function wavHeaderBytes(sampleCount: number): number {
  return isLong(sampleCount) ? riffHeaderBytes + ds64Bytes : riffHeaderBytes
}

/** Header of a mono 16-bit PCM WAV file: RIFF WAVE, format tag 1; from 4 GB on RF64 (EBU Tech 3306, 2009). */
export function wavHeader(sampleCount: number, sampleRate: number): Uint8Array {
  const long = isLong(sampleCount)
  const dataBytes = sampleCount * 2
  const header = new Uint8Array(wavHeaderBytes(sampleCount))
  const view = new DataView(header.buffer)
  let at = 0
  const text = (value: string): void => {
    header.set([...value].map(c => c.charCodeAt(0)), at)
    at += value.length
  }
  const u16 = (value: number): void => {
    view.setUint16(at, value, true)
    at += 2
  }
  const u32 = (value: number): void => {
    view.setUint32(at, value, true)
    at += 4
  }
  const u64 = (value: number): void => {
    view.setBigUint64(at, BigInt(value), true)
    at += 8
  }
  text(long ? 'RF64' : 'RIFF')
  u32(long ? largestRiffBytes : header.length - 8 + dataBytes)
  text('WAVE')
  if (long) {
    text('ds64')
    u32(ds64Bytes - 8)
    u64(header.length - 8 + dataBytes)
    u64(dataBytes)
    u64(sampleCount)
    u32(0)
  }
  text('fmt ')
  u32(16)
  u16(1)
  u16(1)
  u32(sampleRate)
  u32(sampleRate * 2)
  u16(2)
  u16(16)
  text('data')
  u32(long ? largestRiffBytes : dataBytes)
  return header
}

/** Size of a track as a WAV file, in bytes. */
export function wavSize(track: Pick<Track, 'sampleCount'>): number {
  return wavHeaderBytes(track.sampleCount) + track.sampleCount * 2
}

/**
 * The bytes of a track's WAV file from `from` up to `to`, made on demand: only the takes in that range are
 * loaded. Samples are written little-endian, as the platforms this runs on hold them.
 */
export async function* wavBytes(
  track: PlayableTrack, load: (take: string) => Promise<Int16Array>, from = 0, to = wavSize(track),
): AsyncGenerator<Uint8Array> {
  const headerBytes = wavHeaderBytes(track.sampleCount)
  if (from < headerBytes) yield wavHeader(track.sampleCount, track.sampleRate).subarray(from, Math.min(to, headerBytes))
  const first = Math.max(0, from - headerBytes)
  const last = to - headerBytes
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
