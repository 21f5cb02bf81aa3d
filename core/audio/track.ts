import type { CastScore, CastUtterance } from '../score/request'
import type { SoundPlay } from '../score/sounds'
import { applyGain, msToSamples, rampGain } from './pcm'

/** A stretch of a track: a piece of a take or of a sound, or silence when `key` is null. */
export interface TrackPiece {
  readonly key: string | null
  /** Where the piece begins in its take. */
  readonly fromSample: number
  readonly startSample: number
  readonly sampleCount: number
  readonly gainDb: number
  /** The level that it goes on from, where it follows the same speech without a rest. */
  readonly rampFromDb?: number
}

export interface TimedUtterance {
  readonly utterance: CastUtterance
  /** Where the first sound before it begins; `startSample` without. */
  readonly leadSample: number
  readonly startSample: number
  readonly endSample: number
}

/**
 * One output file before encoding: a function of its score and the shapes of its takes. Its timeline is
 * prefix sums of sample counts, so every time in it is exact.
 */
export interface Track {
  /** Hz */
  readonly sampleRate: number
  readonly sampleCount: number
  readonly pieces: readonly TrackPiece[]
  readonly timeline: readonly TimedUtterance[]
}

/** What a track must know of a take without its audio. */
export interface TakeShape {
  readonly sampleCount: number
  /** Pairs in one list: place in what was sent, sample. */
  readonly wordMarks: readonly number[]
}

/** Silence before the first and after the last word. */
export interface Margins {
  readonly headMs: number
  readonly tailMs: number
}

/** A change of level in running speech takes this long. */
const rampMs = 5

/**
 * Lays a score out. `shapeOf` must know the take of every utterance. One that sounds like nothing (the
 * voice does not speak its signs) has no rest of its own: the longest of the rests around it counts.
 */
export function layTrack(
  score: CastScore, shapeOf: (utterance: CastUtterance) => TakeShape, sampleRate: number, margins: Margins,
): Track {
  const pieces: TrackPiece[] = []
  const timeline: TimedUtterance[] = []
  let at = 0
  const add = (piece: Omit<TrackPiece, 'startSample'>): void => {
    if (piece.sampleCount <= 0) return
    pieces.push({ ...piece, startSample: at })
    at += piece.sampleCount
  }
  const rest = (ms: number): void => add({ key: null, fromSample: 0, sampleCount: msToSamples(ms, sampleRate), gainDb: 0 })
  rest(margins.headMs)
  const play = ({ key, fromSample, sampleCount, gainDb, restBeforeMs }: SoundPlay, atLeastMs = 0): void => {
    rest(Math.max(atLeastMs, restBeforeMs))
    add({ key, fromSample, sampleCount, gainDb })
  }
  let restMs = 0
  for (const utterance of score.utterances) {
    const shape = shapeOf(utterance)
    let leadSample: number | null = null
    for (const sound of utterance.soundsBefore ?? []) {
      play(sound, restMs)
      restMs = 0
      leadSample ??= at - sound.sampleCount
    }
    restMs = Math.max(restMs, utterance.restBeforeMs)
    if (shape.sampleCount > 0) {
      rest(restMs)
      restMs = 0
    }
    const startSample = at
    const cuts = cutsOf(utterance, shape, utterance.gainDb)
    cuts.forEach((cut, index) => {
      for (const sound of cut.sounds) play(sound)
      rest(cut.restMs)
      const end = cuts[index + 1]?.sample ?? shape.sampleCount
      const goesOn = index > 0 && cut.restMs === 0 && cut.sounds.length === 0 && cuts[index - 1]!.gainDb !== cut.gainDb
      add({ key: utterance.key, fromSample: cut.sample, sampleCount: end - cut.sample, gainDb: cut.gainDb, ...(goesOn ? { rampFromDb: cuts[index - 1]!.gainDb } : {}) })
    })
    timeline.push({ utterance, leadSample: leadSample ?? startSample, startSample, endSample: at })
  }
  for (const sound of score.soundsAfter ?? []) play(sound)
  rest(score.restAfterMs ?? 0)
  rest(margins.tailMs)
  return { sampleRate, sampleCount: at, pieces, timeline }
}

interface Cut {
  readonly sample: number
  readonly sounds: readonly SoundPlay[]
  readonly restMs: number
  readonly gainDb: number
}

/** Where a take is cut for rests and levels. In one that is not made yet, about where the places are. */
function cutsOf({ stretches, length }: CastUtterance, { sampleCount, wordMarks }: TakeShape, gainDb: number): Cut[] {
  if (stretches === undefined) return [{ sample: 0, sounds: [], restMs: 0, gainDb }]
  const samples = new Map<number, number>()
  for (let i = 0; i < wordMarks.length; i += 2) samples.set(wordMarks[i]!, wordMarks[i + 1]!)
  let before = 0
  return stretches.map((stretch, index) => {
    const known = index === 0 ? 0 : samples.get(stretch.place) ?? Math.round(sampleCount * stretch.place / length)
    before = Math.max(before, Math.min(sampleCount, known))
    return { sample: before, sounds: stretch.sounds ?? [], restMs: stretch.restMs, gainDb: gainDb + stretch.gainDb }
  })
}

/** Silence is given out in stretches of at most this many samples, so that memory stays small. */
const longestStretch = 1 << 16

/** The samples of a track from `from` up to `to`, in stretches. `load` gives the samples of a take. */
export async function* renderTrack(
  track: Omit<Track, 'timeline'>, load: (key: string) => Promise<Int16Array>, from = 0, to = track.sampleCount,
): AsyncGenerator<Int16Array> {
  for (const piece of track.pieces) {
    const start = Math.max(from, piece.startSample) - piece.startSample
    const end = Math.min(to, piece.startSample + piece.sampleCount) - piece.startSample
    if (end <= start) continue
    if (piece.key !== null) {
      const samples = (await load(piece.key)).subarray(piece.fromSample + start, piece.fromSample + end)
      yield piece.rampFromDb === undefined
        ? applyGain(samples, piece.gainDb)
        : rampGain(samples, piece.rampFromDb, piece.gainDb, start, msToSamples(rampMs, track.sampleRate))
    } else {
      for (let left = end - start; left > 0; left -= longestStretch) yield new Int16Array(Math.min(left, longestStretch))
    }
  }
}

/** Samples that sounds take with the rests before them. */
function taken(sounds: readonly SoundPlay[], samplesOf: (ms: number) => number): number {
  return sounds.reduce((sum, sound) => sum + samplesOf(sound.restBeforeMs) + sound.sampleCount, 0)
}

/** When each word of an utterance begins, in samples from where it, or the first sound before it, begins, with its written span. */
export function wordTimes(utterance: CastUtterance, shape: TakeShape, sampleRate: number): { readonly start: number, readonly end: number, readonly sample: number }[] {
  const samplesOf = (ms: number): number => msToSamples(ms, sampleRate)
  const cuts = cutsOf(utterance, shape, 0).slice(1).map(({ sample, sounds, restMs }) => ({ sample, taken: samplesOf(restMs) + taken(sounds, samplesOf) }))
  const lead = utterance.soundsBefore === undefined ? 0 : taken(utterance.soundsBefore, samplesOf) - samplesOf(utterance.soundsBefore[0]!.restBeforeMs) + samplesOf(utterance.restBeforeMs)
  const times: { start: number, end: number, sample: number }[] = []
  let word = 0
  for (let i = 0; i < shape.wordMarks.length; i += 2) {
    const [place, sample] = [shape.wordMarks[i]!, shape.wordMarks[i + 1]!]
    if (utterance.stretches?.some(stretch => stretch.place === place && place > 0) === true) continue
    const from = word
    while (word + 3 < utterance.words.length && utterance.words[word + 3]! <= place) word += 3
    const rests = cuts.filter(cut => cut.sample <= sample).reduce((sum, cut) => sum + cut.taken, lead)
    const [start, end] = [utterance.words[word + 1]!, utterance.words[word + 2]!]
    const last = times.at(-1)
    // Words spoken as one with the word before them have no time of their own: they belong to that one.
    if (last !== undefined && word > from + 3) times[times.length - 1] = { ...last, end: utterance.words[word - 1]! }
    if (last === undefined || last.start !== start) times.push({ start, end, sample: sample + rests })
  }
  const behind = utterance.words.at(-1)
  if (times.length > 0 && behind !== undefined) times[times.length - 1] = { ...times.at(-1)!, end: behind }
  return times
}
