import { writeFile } from 'node:fs/promises'
import type { SoundSettings } from '#core/delivery/formats'
import { fail } from '#core/problem'
import { encodeMp3 } from '../libraries/lame'
import { decodeMp3 } from '../libraries/mpg123'
import { Scratch } from '../scratch'
import { id3Tags } from '../tags'
import type { FileContents, FileFormat } from './format'

/** Samples of a frame of MPEG-1 Layer III (ISO/IEC 11172-3, 2.4.2.1). */
const frameSamples = 1152

/** Samples that the encoder (LAME) puts before the first one, and those that every decoder adds to them. */
const encoderDelay = 576
const decoderDelay = 529

const bitRates = {
  1: [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
  2: [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
} as const
const sampleRates = { 1: [44_100, 48_000, 32_000], 2: [22_050, 24_000, 16_000] } as const

interface FrameHeader {
  readonly version: 1 | 2
  readonly kbps: number
  readonly bytes: number
  readonly mono: boolean
}

/** The header of a frame (ISO/IEC 11172-3, 2.4.1.3); null where there is none. */
export function mp3Frame(bytes: Buffer, at: number): FrameHeader | null {
  if (at + 4 > bytes.length || bytes[at] !== 0xff || (bytes[at + 1]! & 0xe6) !== 0xe2) return null
  const version = (bytes[at + 1]! & 0x18) === 0x18 ? 1 : (bytes[at + 1]! & 0x18) === 0x10 ? 2 : null
  if (version === null) return null
  const kbps = bitRates[version][bytes[at + 2]! >> 4]
  const rate = sampleRates[version][bytes[at + 2]! >> 2 & 3]
  if (kbps === undefined || kbps === 0 || rate === undefined) return null
  const padding = bytes[at + 2]! >> 1 & 1
  return { version, kbps, bytes: Math.floor((version === 1 ? 144 : 72) * kbps * 1000 / rate) + padding, mono: bytes[at + 3]! >> 6 === 3 }
}

/** Where the frames of a stream begin, and its end. Throws a problem where something is not a frame. */
function mp3Frames(bytes: Buffer): number[] {
  const places: number[] = []
  let at = 0
  while (at < bytes.length) {
    const header = mp3Frame(bytes, at)
    if (header === null || at + header.bytes > bytes.length) fail('encoder-failed', 'The encoder gave something that is no MP3. Check the free space and try again.')
    places.push(at)
    at += header.bytes
  }
  places.push(at)
  return places
}

/** Where in the first frame the tag begins: behind its header and side information (ISO/IEC 11172-3, 2.4.1.7). */
const tagPlace = { 1: { mono: 21, stereo: 36 }, 2: { mono: 13, stereo: 21 } } as const
const tocEntries = 100
/** Byte for byte, as decoders look for them (*common practice*; fields from memory). */
const infoBytes = 4 + 4 + 4 + 4 + tocEntries + 4
const constantBitRate = 1

/**
 * The frame before all others, whose header (from the first of them) they share. It says how many there are, and how many samples to leave out at the beginning and the end, so that decoders give
 * back exactly what was encoded. It is a valid frame of silence for decoders that do not know it.
 */
function infoFrame(first: Buffer, { frames, bytes, sampleCount }: FileContents): Buffer {
  const { version, bytes: length, mono } = mp3Frame(first, 0)!
  const frame = Buffer.alloc(length)
  first.copy(frame, 0, 0, 4)
  let at: number = tagPlace[version][mono ? 'mono' : 'stereo']
  const begin = at
  frame.write('Info', at, 'latin1')
  frame.writeUInt32BE(0b1111, at + 4)
  frame.writeUInt32BE(frames, at + 8)
  frame.writeUInt32BE(bytes + length, at + 12)
  for (let i = 0; i < tocEntries; i += 1) frame[at + 16 + i] = Math.floor(i * 256 / tocEntries)
  at = begin + infoBytes
  frame.write('LAME', at, 'latin1')
  frame[at + 9] = constantBitRate
  const padding = frames * frameSamples - encoderDelay - sampleCount
  frame.writeUIntBE(encoderDelay << 12 | padding, at + 21, 3)
  frame.writeUInt32BE(bytes + length, at + 28)
  frame.writeUInt16BE(crc16(frame.subarray(0, at + 34)), at + 34)
  return frame
}

/** CRC-16 with the polynomial 0x8005, bits from the lowest on. */
function crc16(bytes: Buffer): number {
  let crc = 0
  for (const byte of bytes) {
    crc ^= byte
    for (let bit = 0; bit < 8; bit += 1) crc = (crc & 1) === 1 ? crc >> 1 ^ 0xa001 : crc >> 1
  }
  return crc
}

/** What the encoder takes away from the level, dB, by bit rate (kbit/s); measured, in mono and stereo. */
function lossDb(kbps: number): number {
  if (kbps >= 256) return 0
  if (kbps >= 224) return 0.175
  return kbps >= 192 ? 0.265 : 0.446
}

/** The bytes of a file; what was given is written before more is asked for. */
async function* streamOf(contents: FileContents): AsyncGenerator<Buffer> {
  yield id3Tags(contents)
  let isFirst = true
  for await (const piece of contents.pieces(new Scratch())) {
    if (isFirst) yield infoFrame(piece, contents)
    isFirst = false
    yield piece
  }
}

/** MP3 with a constant bit rate. */
export function mp3({ sampleRate, channels, bitRateKbps }: SoundSettings): FileFormat {
  const settings = { sampleRate, channels, bitRateKbps: bitRateKbps! }
  return {
    frameSamples, preRollFrames: 12, postRollFrames: 3, delay: encoderDelay + decoderDelay, decodedDelay: encoderDelay + decoderDelay, endsExactly: false, lossDb: lossDb(bitRateKbps!),
    coder: {
      encode: (samples, scratch) => encodeMp3(samples, settings, scratch),
      decode: (stream, scratch) => decodeMp3(stream, { sampleRate, channels, mostSamples: (mp3Frames(stream).length - 1) * frameSamples }, scratch),
    },
    cut: (stream, first, frames) => {
      const places = mp3Frames(stream)
      return stream.subarray(places[first]!, places[first + frames]!)
    },
    write: (contents, path) => writeFile(path, streamOf(contents)),
  }
}
