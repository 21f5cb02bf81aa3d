import { appendFile, open, stat } from 'node:fs/promises'
import type { SoundSettings } from '#core/delivery/formats'
import { id3Tags } from '../tags'
import type { FileContents, FileFormat } from './format'
import { mux } from './mux'

/** Pieces begin on multiples of this, ms, which are whole samples at every rate. */
const gridMs = 20

/** Samples as they are, linear or by ITU-T G.711 (µ-law), in a WAV file; from 4 GB on RF64. */
export function pcm({ format, bits, sampleRate, channels }: SoundSettings): FileFormat {
  const [codec, raw] = format === 'mulaw' ? ['pcm_mulaw', 'mulaw'] : [`pcm_s${bits}le`, `s${bits}le`]
  const frameSamples = sampleRate * gridMs / 1000
  const frameBytes = frameSamples * channels * (format === 'mulaw' ? 1 : bits! / 8)
  const decoding = ['-f', raw, '-ar', String(sampleRate), '-ac', String(channels)]
  return {
    frameSamples, preRollFrames: 2, postRollFrames: 2, delay: 0, decodedDelay: 0, endsExactly: true, lossDb: 0,
    coder: { encoding: ['-c:a', codec, '-f', raw], decoding },
    cut: (stream, first, frames) => stream.subarray(first * frameBytes, (first + frames) * frameBytes),
    // Telephone systems know little but samples.
    write: (contents, path) => format === 'mulaw' ? writeWav(contents, decoding, null, path) : writeWav(contents, decoding, id3Tags({ ...contents, chapters: [] }), path),
  }
}

/** Where the sizes of a RIFF and of an RF64 file stand (EBU Tech 3306). */
const riffSizePlace = 4
const rf64SizePlace = 20
const chunkHead = 8

/** Tags in RIFF's own form and heads of chunks take less. */
const roomBytes = 1_000_000
const mostRiffBytes = 0xffff_ffff - roomBytes

/** RIFF itself has no place for narrator, disc and cover: a chunk of ID3v2 has them, with all other tags (*common practice*). `id3`: what is in it; null for none. */
async function writeWav(contents: FileContents, decoding: readonly string[], id3: Buffer | null, path: string): Promise<void> {
  const isLarge = contents.bytes + (id3?.length ?? 0) > mostRiffBytes
  await mux({ ...contents, chapters: [], cover: null }, decoding, ['-rf64', isLarge ? 'always' : 'auto', '-f', 'wav'], path)
  if (id3 !== null) await addChunk(path, 'id3 ', id3, isLarge)
}

/** Adds a chunk to the end of a RIFF or RF64 file. */
async function addChunk(path: string, name: string, content: Buffer, isLarge: boolean): Promise<void> {
  const chunk = Buffer.alloc(chunkHead + content.length + content.length % 2)
  chunk.write(name, 'latin1')
  chunk.writeUInt32LE(content.length, 4)
  content.copy(chunk, chunkHead)
  await appendFile(path, chunk)
  const { size } = await stat(path)
  const sized = Buffer.alloc(isLarge ? 8 : 4)
  if (isLarge) sized.writeBigUInt64LE(BigInt(size - chunkHead))
  else sized.writeUInt32LE(size - chunkHead)
  const file = await open(path, 'r+')
  await file.write(sized, 0, sized.length, isLarge ? rf64SizePlace : riffSizePlace).finally(() => file.close())
}
