import { LRUCache } from 'lru-cache'
import type { Track } from '#core/audio/track'
import { denoised } from '#core/mastering/denoise'

/** Behind the id of a take, that its noise is lowered: pieces with it are others than those without. */
const markOf = (byDb: number): string => ` less noise 1 ${byDb}`

/** Recordings whose noise was lowered, kept while there is room: 64 MB. */
const mostBytes = 64 * 1024 * 1024
const kept = new LRUCache<string, Int16Array>({ maxSize: mostBytes, sizeCalculation: samples => Math.max(1, samples.byteLength) })

/** A track in which the sounds that the script plays, by the ids of their takes, have less noise, by so many dB. Sounds under the speech and the tone of a room stay as they are. */
export function withLessNoise(track: Track, sounds: ReadonlyMap<string, string>, byDb: number): Track {
  const speech = track.lanes.speech.map(piece => piece.take !== null && sounds.has(piece.take) ? { ...piece, take: piece.take + markOf(byDb) } : piece)
  return { ...track, lanes: { ...track.lanes, speech } }
}

/** A loader for such a track, of one for takes at a rate (Hz). */
export function lessNoiseLoader(load: (take: string) => Promise<Int16Array>, byDb: number, rate: number): (take: string) => Promise<Int16Array> {
  const mark = markOf(byDb)
  return async take => {
    if (!take.endsWith(mark)) return load(take)
    const name = `${take} ${rate}`
    const known = kept.get(name)
    if (known !== undefined) return known
    const samples = denoised(await load(take.slice(0, -mark.length)), rate, byDb)
    kept.set(name, samples)
    return samples
  }
}
