import { execFile } from 'node:child_process'
import { open, type FileHandle } from 'node:fs/promises'
import { promisify } from 'node:util'
import type { SoundSettings } from '#core/delivery/formats'
import { fail } from '#core/problem'
import { pictureBlock, vorbisComments } from '../tags'
import { crcOf } from './crc'
import type { FileContents, FileFormat } from './format'
import { oggPackets } from './ogg'
import { packed, unpacked } from './packed'

/** A frame, ms: whole samples at every rate. */
const frameMs = 40

/** FLAC (RFC 9639). Its frames say which they are, so that they are numbered anew in each file. */
export function flac(settings: SoundSettings): FileFormat {
  const { bits, sampleRate } = settings
  const frameSamples = sampleRate * frameMs / 1000
  return {
    frameSamples, preRollFrames: 1, postRollFrames: 1, delay: 0, decodedDelay: 0, endsExactly: true, lossDb: 0,
    coder: {
      encoding: ['-c:a', 'flac', '-sample_fmt', bits === 16 ? 's16' : 's32', '-frame_size', String(frameSamples), '-f', 'ogg'],
      decoding: ['-f', 'ogg'],
    },
    cut: (stream, first, frames) => {
      const sounding = oggPackets(stream).filter(isFrame)
      return packed(sounding.slice(first, first + frames))
    },
    write: (contents, path) => writeFlac(contents, settings, frameSamples, path),
  }
}

/** Frames begin so when all have the same number of samples (9.1). */
const isFrame = (packet: Buffer): boolean => packet[0] === 0xff && packet[1] === 0xf8

const blocks = { streamInfo: 0, vorbisComment: 4, picture: 6 } as const
const lastBlock = 0x80
const streamInfoBytes = 34
/** Where the checksum of the samples is in a file: behind `fLaC`, the head of the block, and the other members of it (8.2). */
const md5Place = 4 + 4 + 18

async function writeFlac(contents: FileContents, settings: SoundSettings, frameSamples: number, path: string): Promise<void> {
  const file = await open(path, 'w')
  try {
    await file.writeFile(head(contents, settings, frameSamples))
    let number = 0
    for await (const piece of contents.pieces()) {
      const frames: Buffer[] = []
      for (const frame of unpacked(piece)) {
        frames.push(numbered(frame, number))
        number += 1
      }
      await file.writeFile(Buffer.concat(frames))
    }
    await writeMd5(file, path, settings)
  } finally {
    await file.close()
  }
}

function head({ sampleCount, ...contents }: FileContents, { bits, sampleRate, channels }: SoundSettings, frameSamples: number): Buffer {
  const info = Buffer.alloc(streamInfoBytes)
  info.writeUInt16BE(frameSamples, 0)
  info.writeUInt16BE(frameSamples, 2)
  // The smallest and the largest frame are not known. Then: rate in 20 bits, channels less one in 3, bits less one in 5, samples in 36.
  info.writeBigUInt64BE(BigInt(sampleRate) << 44n | BigInt(channels - 1) << 41n | BigInt(bits! - 1) << 36n | BigInt(sampleCount), 10)
  const comments = vorbisComments({ ...contents, cover: null })
  return Buffer.concat([
    Buffer.from('fLaC'), block(blocks.streamInfo, info),
    ...(contents.cover === null ? [] : [block(blocks.picture, pictureBlock(contents.cover))]),
    block(blocks.vorbisComment | lastBlock, comments),
  ])
}

function block(type: number, bytes: Buffer): Buffer {
  const begin = Buffer.alloc(4)
  begin[0] = type
  begin.writeUIntBE(bytes.length, 1, 3)
  return Buffer.concat([begin, bytes])
}

/** The checksum of the samples in the file, of which decoders tell that they have all of them right. */
async function writeMd5(file: FileHandle, path: string, { bits }: SoundSettings): Promise<void> {
  const { stdout } = await promisify(execFile)('ffmpeg', ['-hide_banner', '-nostdin', '-loglevel', 'error', '-f', 'flac', '-i', path, '-map', '0:a', '-c:a', `pcm_s${bits}le`, '-f', 'md5', 'pipe:1'])
  const sum = /^MD5=([0-9a-f]{32})$/mu.exec(stdout)?.[1]
  if (sum === undefined) fail('encoder-failed', 'The FLAC file cannot be decoded. Check the free space and try again.')
  await file.write(Buffer.from(sum, 'hex'), 0, 16, md5Place)
}

/** How many bytes more a head has by its codes of block size and of rate (9.1.1, 9.1.2). */
const sizeBytes: Readonly<Record<number, number>> = { 6: 1, 7: 2 }
const rateBytes: Readonly<Record<number, number>> = { 12: 1, 13: 2, 14: 2 }
const numberPlace = 4

/** A frame with another number. */
function numbered(frame: Buffer, number: number): Buffer {
  const codes = frame[2]!
  const behind = numberPlace + codedBytes(frame[numberPlace]!)
  const more = (sizeBytes[codes >> 4] ?? 0) + (rateBytes[codes & 15] ?? 0)
  const begin = Buffer.concat([frame.subarray(0, numberPlace), coded(number), frame.subarray(behind, behind + more)])
  const body = Buffer.concat([begin, Buffer.from([crc8(begin)]), frame.subarray(behind + more + 1, frame.length - 2)])
  const end = Buffer.alloc(2)
  end.writeUInt16BE(crc16(body))
  return Buffer.concat([body, end])
}

/** Bytes of a coded number by its first one. */
function codedBytes(first: number): number {
  let bytes = 0
  while ((first & 0x80 >> bytes) !== 0) bytes += 1
  return Math.max(1, bytes)
}

/** A number of up to 31 bits, coded as UTF-8 codes characters (9.1.5). */
function coded(number: number): Buffer {
  if (number < 0x80) return Buffer.from([number])
  const tail: number[] = []
  let rest = number
  let room = 0x40
  while (rest >= room) {
    tail.unshift(0x80 | rest & 0x3f)
    rest >>>= 6
    room >>= 1
  }
  return Buffer.from([~(room * 2 - 1) & 0xff | rest, ...tail])
}

/** Of the head of a frame, and of all of it (9.1.8, 9.3). */
const crc8 = crcOf(8, 0x07)
const crc16 = crcOf(16, 0x8005)
