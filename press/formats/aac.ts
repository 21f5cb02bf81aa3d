import type { SoundSettings } from '#core/delivery/formats'
import { fail } from '#core/problem'
import type { FileContents, FileFormat } from './format'
import { mux } from './mux'

/** Samples of a frame (ISO/IEC 14496-3, AAC-LC). */
const frameSamples = 1024

/** Samples that the encoder puts before the first one. */
const delay = frameSamples

const decoding = ['-f', 'aac']

/** Bytes of the head of a frame in a stream (ADTS, ISO/IEC 13818-7, 6.2). */
const headBytes = 7

/** Where the frames of a stream begin, and its end. Throws a problem where something is not a frame. */
function framesIn(stream: Buffer): number[] {
  const places: number[] = []
  let at = 0
  while (at < stream.length) {
    const length = at + headBytes <= stream.length && stream[at] === 0xff && (stream[at + 1]! & 0xf6) === 0xf0
      ? (stream[at + 3]! & 3) << 11 | stream[at + 4]! << 3 | stream[at + 5]! >> 5
      : 0
    if (length < headBytes || at + length > stream.length) fail('encoder-failed', 'The encoder gave something that is no AAC. Check the free space and try again.')
    places.push(at)
    at += length
  }
  places.push(at)
  return places
}

/** AAC-LC in an MP4 file, with chapters and cover. */
export function aac({ bitRateKbps, sampleRate }: SoundSettings): FileFormat {
  return {
    frameSamples, preRollFrames: 24, postRollFrames: 3, delay, decodedDelay: delay, endsExactly: false, lossDb: 0,
    coder: {
      encoding: ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', `${bitRateKbps}k`, '-f', 'adts'],
      decoding,
    },
    cut: (stream, first, frames) => {
      const places = framesIn(stream)
      return stream.subarray(places[first]!, places[first + frames]!)
    },
    write: (contents, path) => writeMp4(contents, sampleRate, path),
  }
}

/** The samples before the first one are skipped by an edit list, and the last frame is as long as what is left. */
function writeMp4(contents: FileContents, sampleRate: number, path: string): Promise<void> {
  const last = delay + contents.sampleCount - (contents.frames - 1) * frameSamples
  return mux(contents, decoding, [
    '-metadata:s:a:0', `language=${contents.tags.language}`,
    '-bsf:a', `setts=ts=TS-${delay}:duration=if(eq(N\\,${contents.frames - 1})\\,${last}\\,${frameSamples})`, '-avoid_negative_ts', 'disabled',
    '-movflags', '+faststart', '-movie_timescale', String(sampleRate), '-f', 'ipod',
  ], path)
}
