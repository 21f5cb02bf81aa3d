import type { PartScore, Utterance } from '../score/compile'
import { applyGain, msToSamples } from './pcm'

/** A stretch of a track: a take, or silence when `key` is null. */
export interface TrackPiece {
  readonly key: string | null
  readonly startSample: number
  readonly sampleCount: number
}

export interface TimedUtterance {
  readonly utterance: Utterance
  readonly startSample: number
  readonly endSample: number
}

/**
 * One output file before encoding: a function of its score and the lengths of its takes. Its timeline is
 * prefix sums of sample counts, so every time in it is exact.
 */
export interface Track {
  /** Hz */
  readonly sampleRate: number
  readonly gainDb: number
  readonly sampleCount: number
  readonly pieces: readonly TrackPiece[]
  readonly timeline: readonly TimedUtterance[]
}

/** Silence before the first and after the last word. */
export interface Margins {
  readonly headMs: number
  readonly tailMs: number
}

/**
 * Lays a score out. `sampleCountOf` must know the take of every utterance. One that sounds like nothing (the
 * voice does not speak its signs) has no rest of its own: the longest of the rests around it counts.
 */
export function layTrack(
  score: PartScore, sampleCountOf: (utterance: Utterance) => number, sampleRate: number, margins: Margins,
): Track {
  const pieces: TrackPiece[] = []
  const timeline: TimedUtterance[] = []
  let at = 0
  const add = (key: string | null, sampleCount: number): void => {
    if (sampleCount === 0) return
    pieces.push({ key, startSample: at, sampleCount })
    at += sampleCount
  }
  add(null, msToSamples(margins.headMs, sampleRate))
  let restMs = 0
  for (const utterance of score.utterances) {
    const sampleCount = sampleCountOf(utterance)
    restMs = Math.max(restMs, utterance.restBeforeMs)
    if (sampleCount > 0) {
      add(null, msToSamples(restMs, sampleRate))
      restMs = 0
    }
    const startSample = at
    add(utterance.key, sampleCount)
    timeline.push({ utterance, startSample, endSample: at })
  }
  add(null, msToSamples(margins.tailMs, sampleRate))
  return { sampleRate, gainDb: score.gainDb, sampleCount: at, pieces, timeline }
}

/** Silence is given out in stretches of at most this many samples, so that memory stays small. */
const longestStretch = 1 << 16

/** The samples of a track from `from` up to `to`, in stretches. `load` gives the samples of a take. */
export async function* renderTrack(
  track: Track, load: (key: string) => Promise<Int16Array>, from = 0, to = track.sampleCount,
): AsyncGenerator<Int16Array> {
  for (const piece of track.pieces) {
    const start = Math.max(from, piece.startSample) - piece.startSample
    const end = Math.min(to, piece.startSample + piece.sampleCount) - piece.startSample
    if (end <= start) continue
    if (piece.key !== null) {
      yield applyGain((await load(piece.key)).subarray(start, end), track.gainDb)
    } else {
      for (let left = end - start; left > 0; left -= longestStretch) yield new Int16Array(Math.min(left, longestStretch))
    }
  }
}
