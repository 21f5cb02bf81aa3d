import { createWriteStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import type { SoundSettings } from '#core/delivery/formats'
import { fail } from '#core/problem'
import { vorbisComments } from '../tags'
import type { FileContents, FileFormat } from './format'
import { oggPackets, OggWriter } from './ogg'
import { packed, unpacked } from './packed'

/** Samples of a packet of 20 ms at 48 kHz, the rate of every Opus stream (RFC 6716, 2). */
const frameSamples = 960

/** Samples that the encoder puts before the first one, at 48 kHz. */
const preSkip = 312

/** Packets before the first one with sound: head and tags (RFC 7845, 3). */
const headPackets = 2
const preSkipPlace = 10

/** Any number does for the only stream of a file; the same one makes equal files equal. */
const serial = 1

/** Opus in an Ogg file (RFC 7845). */
export function opus({ bitRateKbps, channels }: SoundSettings): FileFormat {
  return {
    frameSamples, preRollFrames: 50, postRollFrames: 3, delay: preSkip, decodedDelay: 0, endsExactly: false, lossDb: lossDb(bitRateKbps!),
    coder: {
      encoding: ['-c:a', 'libopus', '-b:a', `${bitRateKbps}k`, '-vbr', 'constrained', '-frame_duration', '20', '-f', 'ogg'],
      decoding: ['-f', 'ogg'],
    },
    cut: (stream, first, frames) => {
      const packets = oggPackets(stream)
      if (packets[0]?.readUInt16LE(preSkipPlace) !== preSkip) fail('encoder-failed', 'The encoder gave Opus that begins in another way than is known. Use the ffmpeg of Debian.')
      return packed(packets.slice(headPackets + first, headPackets + first + frames))
    },
    write: (contents, path) => pipeline(pages(contents, channels), createWriteStream(path)),
  }
}

/** What low bit rates lose of the level, dB; measured with speech. */
const lossDb = (kbps: number): number => kbps >= 64 ? 0 : kbps >= 40 ? 0.15 : 0.25

async function* pages(contents: FileContents, channels: number): AsyncGenerator<Buffer> {
  const writer = new OggWriter(serial)
  yield* writer.alone(head(channels))
  yield* writer.alone(Buffer.concat([Buffer.from('OpusTags'), vorbisComments(contents)]))
  let samples = 0
  for await (const piece of contents.pieces()) {
    for (const packet of unpacked(piece)) {
      yield* writer.add(packet, BigInt(samples))
      samples += frameSamples
    }
  }
  yield writer.end(BigInt(preSkip + contents.sampleCount))
}

/** OpusHead (RFC 7845, 5.1). */
function head(channels: number): Buffer {
  const bytes = Buffer.alloc(19)
  bytes.write('OpusHead', 0, 'latin1')
  bytes[8] = 1
  bytes[9] = channels
  bytes.writeUInt16LE(preSkip, preSkipPlace)
  bytes.writeUInt32LE(48_000, 12)
  return bytes
}
