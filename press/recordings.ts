import type { Track } from '#core/audio/track'
import { denoised } from '#core/mastering/denoise'
import { KeptSamples } from '#takes/kept-samples'

/** Behind the id of a take, that its noise is lowered: pieces with it are others than those without. */
const markOf = (byDb: number): string => ` less noise 1 ${byDb}`

/** Recordings whose noise was lowered. */
const kept = new KeptSamples()

/** A track, and what loads the samples of its takes at its rate. */
interface LoadedTrack {
  readonly track: Track
  readonly load: (take: string) => Promise<Int16Array>
}

/**
 * A track in which the sounds that the script plays, by the ids of their takes, have less noise, by so many dB; as it is for null. Sounds under the speech and the tone of a room
 * stay as they are.
 */
export function withLessNoise({ track, load }: LoadedTrack, sounds: ReadonlyMap<string, string>, byDb: number | null): LoadedTrack {
  if (byDb === null) return { track, load }
  const mark = markOf(byDb)
  const speech = track.lanes.speech.map(piece => piece.take !== null && sounds.has(piece.take) ? { ...piece, take: piece.take + mark } : piece)
  return {
    track: { ...track, lanes: { ...track.lanes, speech } },
    load: async take => {
      if (!take.endsWith(mark)) return load(take)
      const name = `${take} ${track.sampleRate}`
      return kept.get(name) ?? kept.put(name, denoised(await load(take.slice(0, -mark.length)), track.sampleRate, byDb))
    },
  }
}
