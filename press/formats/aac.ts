import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import type { SoundSettings } from '#core/delivery/formats'
import { fail } from '#core/problem'
import { manyWait, runFfmpeg } from '../ffmpeg'
import { ffMetadata } from '../tags'
import type { FileContents, FileFormat } from './format'

/** Samples of a frame (ISO/IEC 14496-3, AAC-LC). */
const frameSamples = 1024

/** Samples that the encoder puts before the first one. */
const delay = frameSamples

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
    encoding: ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', `${bitRateKbps}k`, '-f', 'adts'],
    decoding: ['-f', 'aac'],
    cut: (stream, first, frames) => {
      const places = framesIn(stream)
      return stream.subarray(places[first]!, places[first + frames]!)
    },
    write: (contents, path) => writeMp4(contents, sampleRate, path),
  }
}

async function writeMp4(contents: FileContents, sampleRate: number, path: string): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'quill-mp4-'))
  try {
    const [tags, cover] = [join(folder, 'tags.txt'), join(folder, 'cover')]
    await writeFile(tags, ffMetadata(contents))
    if (contents.cover !== null) await writeFile(cover, contents.cover.bytes)
    // The samples before the first one are skipped by an edit list, and the last frame is as long as what is left.
    const last = delay + contents.sampleCount - (contents.frames - 1) * frameSamples
    await runFfmpeg([
      ...manyWait, '-f', 'aac', '-i', 'pipe:0', '-f', 'ffmetadata', '-i', tags, ...(contents.cover === null ? [] : ['-f', 'image2pipe', '-i', cover]),
      '-map', '0:a', ...(contents.cover === null ? [] : ['-map', '2:v', '-disposition:v:0', 'attached_pic']), '-map_metadata', '1', '-map_chapters', '1',
      '-metadata:s:a:0', `language=${contents.tags.language}`,
      '-c', 'copy', '-bsf:a', `setts=ts=TS-${delay}:duration=if(eq(N\\,${contents.frames - 1})\\,${last}\\,${frameSamples})`, '-avoid_negative_ts', 'disabled',
      '-fflags', '+bitexact', '-movflags', '+faststart', '-movie_timescale', String(sampleRate), '-f', 'ipod', '-y', path,
    ], Readable.from(contents.pieces))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
