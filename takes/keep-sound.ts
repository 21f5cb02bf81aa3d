import { createHash } from 'node:crypto'
import type { Pcm } from '#core/audio/pcm'
import type { Sound } from '#core/score/sounds'
import { loadTake, unlessDamaged, type TakeLibrary } from './library'
import { storeTakes } from './store-takes'

/** Keeps a sound as a take, whose key is the hash of its audio; one that is there and sound is not kept twice. Rejects with a problem when the disk is full. */
export async function keepSound(library: TakeLibrary, { samples, sampleRate }: Pcm): Promise<Sound> {
  const key = createHash('sha256').update(`sound ${sampleRate} `).update(Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)).digest('hex')
  const known = (await library.index.find([key])).get(key)
  const isThere = known !== undefined && await unlessDamaged(loadTake(library, known)) !== null
  if (!isThere) await storeTakes(library, [{ key, variant: 0, origin: 'imported', textHash: null, sampleRate, wordMarks: [], samples }])
  return { key, sampleRate, sampleCount: samples.length }
}
