import { sliceTrack, type PlayableTrack, type TrackPiece } from '../audio/track'

/**
 * A piece of a track with what is before and after it: where the track has not begun or is over, silence. Equal windows sound the same, wherever they are. At its edges, which
 * are places of the track, the tone of a room fades away.
 */
export function windowOf(track: PlayableTrack, from: number, to: number, edges: readonly number[] = []): PlayableTrack {
  const begin = Math.max(0, from)
  const slice = sliceTrack(track, begin, Math.min(track.sampleCount, to))
  const lead = begin - from
  const moved = <P extends { readonly startSample: number }>(pieces: readonly P[]): P[] => pieces.map(piece => ({ ...piece, startSample: piece.startSample + lead }))
  const { tone } = track.lanes
  const speech = [silence(0, lead), ...moved(slice.lanes.speech), silence(lead + slice.sampleCount, to - from - lead - slice.sampleCount)]
  return { sampleRate: track.sampleRate, sampleCount: to - from, lanes: { speech: speech.reduce(joined, []), beds: moved(slice.lanes.beds), ...(tone === undefined ? {} : { tone: { ...tone, fadesAt: edges.map(edge => edge - from) } }) } }
}

const silence = (startSample: number, sampleCount: number): TrackPiece => ({ take: null, fromSample: 0, startSample, sampleCount, gainDb: 0 })

/** Silence beside silence is one piece. */
function joined(pieces: TrackPiece[], piece: TrackPiece): TrackPiece[] {
  if (piece.sampleCount === 0) return pieces
  const last = pieces.at(-1)
  if (last === undefined || last.take !== null || piece.take !== null) pieces.push({ ...piece, ...(piece.take === null ? { fromSample: 0 } : {}) })
  else pieces[pieces.length - 1] = { ...last, sampleCount: last.sampleCount + piece.sampleCount }
  return pieces
}
