import { speakingMs } from '../estimate/speaking-time'
import type { CastScore, CastUtterance } from '../score/request'
import type { SoundPlay } from '../score/sounds'
import type { Reference } from '../takes/choose'
import { applyGain, dbToFactor, msToSamples, ownMemory, rampGain, toSamples, type SampleMemory } from './pcm'
import { resampledCount } from './resample'

/** A stretch of a track: a piece of a take or of a sound, or silence when `take` is null. Samples are those of the track. */
export interface TrackPiece {
  /** Id of the take. */
  readonly take: string | null
  /** Where the piece begins in its take. */
  readonly fromSample: number
  readonly startSample: number
  readonly sampleCount: number
  readonly gainDb: number
  /** The level that it goes on from, where it follows the same speech without a rest. */
  readonly rampFromDb?: number
}

/** A sound that lies under the speech, again and again from its beginning until its end. */
export interface TrackBed {
  readonly take: string
  /** Samples of the whole sound. */
  readonly length: number
  readonly startSample: number
  readonly sampleCount: number
  readonly gainDb: number
  /** It grows and fades over so many samples. */
  readonly fadeSamples: number
}

export interface TimedUtterance {
  readonly utterance: CastUtterance
  /** Id of the take that it is heard in. */
  readonly take: string
  /** Where the silence before it begins, and where the first sound before it; both are `startSample` where there is none. */
  readonly restSample: number
  readonly leadSample: number
  readonly startSample: number
  readonly endSample: number
}

/** What is heard at once: speech piece after piece, beds under it, and the tone of a room under all. */
export interface Lanes {
  readonly speech: readonly TrackPiece[]
  readonly beds: readonly TrackBed[]
  readonly tone?: RoomTone
}

/** The quiet sound of a room: of the take that it is in, with so many samples. */
export interface RoomTone {
  readonly take: string
  readonly length: number
  /** Places in the track where it fades away and comes back, so that what is heard on either side can be made by itself. */
  readonly fadesAt?: readonly number[]
}

/**
 * One output file before encoding: a function of its score and the shapes of its takes. Its timeline is
 * prefix sums of sample counts, so every time in it is exact.
 */
export interface Track {
  /** Hz */
  readonly sampleRate: number
  readonly sampleCount: number
  readonly lanes: Lanes
  readonly timeline: readonly TimedUtterance[]
}

/** A track as it is played: without the times of its utterances. */
export type PlayableTrack = Omit<Track, 'timeline'>

/** Silence before the first and after the last word. */
export interface Margins {
  readonly headMs: number
  readonly tailMs: number
}

export const noMargins: Margins = { headMs: 0, tailMs: 0 }

/** A change of level in running speech takes this long. */
const rampMs = 5

/**
 * Lays a score out with the takes that are heard (`choose`), at a rate (Hz). The length of one that is not made yet is estimated. A take that sounds like nothing (the
 * voice does not speak its signs) has no rest of its own: the longest of the rests around it counts.
 */
export function layTrack(score: CastScore, references: readonly Reference[], sampleRate: number, margins: Margins = noMargins): Track {
  const speech: TrackPiece[] = []
  const timeline: TimedUtterance[] = []
  let at = 0
  const add = (piece: Omit<TrackPiece, 'startSample'>): void => {
    if (piece.sampleCount <= 0) return
    speech.push({ ...piece, startSample: at })
    at += piece.sampleCount
  }
  const rest = (ms: number): void => add({ take: null, fromSample: 0, sampleCount: msToSamples(ms, sampleRate), gainDb: 0 })
  rest(margins.headMs)
  const play = (sound: SoundPlay, atLeastMs = 0): void => {
    rest(Math.max(atLeastMs, sound.restBeforeMs))
    const fromSample = resampledCount(sound.fromSample, sound.sampleRate, sampleRate)
    add({ take: sound.key, fromSample, sampleCount: resampledCount(sound.fromSample + sound.sampleCount, sound.sampleRate, sampleRate) - fromSample, gainDb: sound.gainDb })
  }
  let restMs = 0
  let restSample = at
  for (const reference of references) {
    const utterances = score.utterances.slice(reference.from, reference.from + reference.count)
    const [first] = utterances as [CastUtterance]
    const length = lengthOf(reference, utterances, sampleRate)
    let leadSample: number | null = null
    for (const sound of first.soundsBefore ?? []) {
      play(sound, restMs)
      restMs = 0
      leadSample ??= speech.at(-1)!.startSample
    }
    restMs = Math.max(restMs, first.restBeforeMs)
    if (length > 0) {
      rest(restMs)
      restMs = 0
    }
    const startSample = at
    const cuts = cutsOf(first, reference, length, sampleRate)
    cuts.forEach((cut, index) => {
      for (const sound of cut.sounds) play(sound)
      rest(cut.restMs)
      const end = cuts[index + 1]?.sample ?? length
      const goesOn = index > 0 && cut.restMs === 0 && cut.sounds.length === 0 && cuts[index - 1]!.gainDb !== cut.gainDb
      add({ take: reference.take, fromSample: cut.sample, sampleCount: end - cut.sample, gainDb: cut.gainDb, ...(goesOn ? { rampFromDb: cuts[index - 1]!.gainDb } : {}) })
    })
    const ends = sharesOf(utterances, startSample, at)
    utterances.forEach((utterance, index) => {
      const begins = index === 0 ? startSample : ends[index - 1]!
      timeline.push({
        utterance, take: reference.take, startSample: begins, endSample: ends[index]!,
        restSample: index === 0 ? restSample : begins, leadSample: index === 0 ? leadSample ?? startSample : begins,
      })
    })
    // Around one without sound there is one rest, and it comes before what sounds next.
    if (at > startSample) restSample = at
  }
  for (const sound of score.soundsAfter ?? []) play(sound)
  rest(score.restAfterMs ?? 0)
  rest(margins.tailMs)
  return { sampleRate, sampleCount: at, lanes: { speech, beds: bedsOf(score, timeline, sampleRate), ...toneOf(score, sampleRate) }, timeline }
}

/** Samples of a take in a track; about how many where it is not made. */
export function lengthOf({ known }: Pick<Reference, 'known'>, utterances: readonly CastUtterance[], sampleRate: number): number {
  if (known !== null) return resampledCount(known.sampleCount, known.sampleRate, sampleRate)
  return utterances.reduce((sum, { text, request }) => sum + msToSamples(speakingMs(text, request.wordsPerMinute), sampleRate), 0)
}

/** Where the utterances of one take end: what each would take of it to be spoken. */
function sharesOf(utterances: readonly CastUtterance[], start: number, end: number): number[] {
  if (utterances.length === 1) return [end]
  const lengths = utterances.map(({ text, request }) => speakingMs(text, request.wordsPerMinute))
  const whole = lengths.reduce((sum, length) => sum + length, 0)
  let before = 0
  return lengths.map(length => {
    before += length
    return start + Math.round((end - start) * before / whole)
  })
}

function bedsOf({ beds = [] }: CastScore, timeline: readonly TimedUtterance[], sampleRate: number): TrackBed[] {
  return beds.flatMap(({ key, sampleRate: own, sampleCount, from, to, gainDb, fadeMs }): TrackBed[] => {
    const [first, last] = [timeline[from], timeline[to]]
    const length = resampledCount(sampleCount, own, sampleRate)
    if (first === undefined || last === undefined || length === 0) return []
    return [{ take: key, length, startSample: first.leadSample, sampleCount: last.endSample - first.leadSample, gainDb, fadeSamples: msToSamples(fadeMs, sampleRate) }]
  })
}

function toneOf({ roomTone }: CastScore, sampleRate: number): Pick<Lanes, 'tone'> {
  const length = roomTone === undefined ? 0 : resampledCount(roomTone.sampleCount, roomTone.sampleRate, sampleRate)
  return length === 0 ? {} : { tone: { take: roomTone!.key, length } }
}

interface Cut {
  /** In the take, at the track's rate. */
  readonly sample: number
  readonly sounds: readonly SoundPlay[]
  readonly restMs: number
  readonly gainDb: number
}

/** Where a take is cut for rests and levels. In one that is not made yet, about where the places are; what the engine was not asked for is in one piece. */
function cutsOf({ stretches, length, gainDb }: CastUtterance, { known, isOwn }: Reference, sampleCount: number, sampleRate: number): Cut[] {
  if (stretches === undefined || !isOwn) return [{ sample: 0, sounds: [], restMs: 0, gainDb: isOwn ? gainDb : 0 }]
  const samples = new Map<number, number>()
  if (known !== null) for (let i = 0; i < known.wordMarks.length; i += 2) samples.set(known.wordMarks[i]!, resampledCount(known.wordMarks[i + 1]!, known.sampleRate, sampleRate))
  let before = 0
  return stretches.map((stretch, index) => {
    const place = index === 0 ? 0 : samples.get(stretch.place) ?? Math.round(sampleCount * stretch.place / length)
    before = Math.max(before, Math.min(sampleCount, place))
    return { sample: before, sounds: stretch.sounds ?? [], restMs: stretch.restMs, gainDb: heldBack(gainDb, stretch.gainDb) }
  })
}

/** A level above its role's, no higher than the engine's full level: beyond that it would distort. */
function heldBack(roleDb: number, changeDb: number): number {
  return Math.min(Math.max(0, roleDb), roleDb + changeDb)
}

const rooms = new WeakMap<Int16Array, number>()

/** How much louder samples can be, in dB from 0: then the loudest is at full scale. A sound is held back to that. */
function roomAbove(samples: Int16Array): number {
  let room = rooms.get(samples)
  if (room === undefined) {
    let peak = 1
    for (const sample of samples) peak = Math.max(peak, Math.abs(sample))
    room = Math.max(0, 20 * Math.log10(32_767 / peak))
    rooms.set(samples, room)
  }
  return room
}

/** A piece of a track by itself, without its timeline. */
export function sliceTrack({ sampleRate, lanes }: PlayableTrack, from: number, to: number): PlayableTrack {
  const within = <P extends { readonly startSample: number, readonly sampleCount: number }>(pieces: readonly P[]): P[] => pieces.filter(({ startSample, sampleCount }) => startSample < to && startSample + sampleCount > from)
  const speech = within(lanes.speech).map(piece => {
    const start = Math.max(from, piece.startSample)
    const { rampFromDb: _, ...rest } = piece
    return {
      ...(start > piece.startSample ? rest : piece), fromSample: piece.fromSample + start - piece.startSample,
      startSample: start - from, sampleCount: Math.min(to, piece.startSample + piece.sampleCount) - start,
    }
  })
  return { sampleRate, sampleCount: to - from, lanes: { ...lanes, speech, beds: within(lanes.beds).map(bed => ({ ...bed, startSample: bed.startSample - from })) } }
}

/** Silence is given out in stretches of at most this many samples, so that memory stays small. */
const longestStretch = 1 << 16

/**
 * The samples of a track from `from` up to `to`, in stretches. `load` gives the samples of a take at the track's rate. `memory`: where a stretch may lie; it is written anew for the next one.
 */
export async function* renderTrack(track: PlayableTrack, load: (take: string) => Promise<Int16Array>, from = 0, to = track.sampleCount, memory = ownMemory): AsyncGenerator<Int16Array> {
  const { speech, beds, tone } = track.lanes
  if (beds.length === 0 && tone === undefined) {
    yield* renderSpeech(track.sampleRate, speech, load, from, to, memory)
    return
  }
  const toned = tone === undefined ? null : { tone, sound: await load(tone.take), fade: msToSamples(toneFadeMs, track.sampleRate) }
  let at = from
  for await (const samples of renderSpeech(track.sampleRate, speech, load, from, to, memory)) {
    const end = at + samples.length
    const under = beds.filter(({ startSample, sampleCount }) => startSample < end && startSample + sampleCount > at)
    if (under.length === 0 && toned === null) {
      yield samples
      at = end
      continue
    }
    const sums = Float64Array.from(samples)
    addBeds(sums, await Promise.all(under.map(async bed => ({ bed, sound: await load(bed.take) }))), at)
    if (toned !== null) addTone(sums, speech, toned, at)
    yield toSamples(sums)
    at = end
  }
}

async function* renderSpeech(sampleRate: number, speech: readonly TrackPiece[], load: (take: string) => Promise<Int16Array>, from: number, to: number, memory: SampleMemory): AsyncGenerator<Int16Array> {
  for (const piece of speech) {
    const start = Math.max(from, piece.startSample) - piece.startSample
    const end = Math.min(to, piece.startSample + piece.sampleCount) - piece.startSample
    if (end <= start) continue
    if (piece.take !== null) {
      const take = await load(piece.take)
      const samples = take.subarray(piece.fromSample + start, piece.fromSample + end)
      yield piece.rampFromDb === undefined
        ? applyGain(samples, piece.gainDb > 0 ? Math.min(piece.gainDb, roomAbove(take)) : piece.gainDb, memory)
        : rampGain(samples, piece.rampFromDb, piece.gainDb, start, msToSamples(rampMs, sampleRate))
    } else {
      for (let left = end - start; left > 0; left -= longestStretch) yield memory(Math.min(left, longestStretch)).fill(0)
    }
  }
}

/** Adds beds to samples that begin at a place of their track. */
function addBeds(sums: Float64Array, beds: readonly { readonly bed: TrackBed, readonly sound: Int16Array }[], from: number): void {
  for (const { bed: { startSample, sampleCount, gainDb, fadeSamples, length }, sound } of beds) {
    const factor = dbToFactor(gainDb)
    const first = Math.max(0, startSample - from)
    const last = Math.min(sums.length, startSample + sampleCount - from)
    for (let i = first; i < last; i += 1) {
      const at = from + i - startSample
      const fade = Math.min(1, (at + 1) / Math.max(1, fadeSamples), (sampleCount - at) / Math.max(1, fadeSamples))
      sums[i]! += (sound[at % length] ?? 0) * factor * fade
    }
  }
}

/** From one piece of speech or rest to the next the tone goes over in so long. */
const toneFadeMs = 10

/**
 * Adds the tone of a room to samples that begin at a place of their track. Under each piece it begins in a place that the piece decides, so that an edit changes the tone
 * where it changes the speech, and nowhere else.
 */
function addTone(sums: Float64Array, pieces: readonly TrackPiece[], { tone: { length, fadesAt = [] }, sound, fade }: { readonly tone: RoomTone, readonly sound: Int16Array, readonly fade: number }, from: number): void {
  const end = from + sums.length
  pieces.forEach((piece, index) => {
    const { startSample, sampleCount } = piece
    if (startSample >= end || startSample + sampleCount <= from) return
    const own = toneStart(piece, length)
    const before = pieces[index - 1]
    const other = before === undefined ? own : toneStart(before, length) + before.sampleCount
    for (let at = Math.max(startSample, from); at < Math.min(startSample + sampleCount, end); at += 1) {
      const within = at - startSample
      const share = Math.min(1, within / fade)
      const level = fadesAt.reduce((least, place) => Math.min(least, Math.abs(at - place) / fade), 1)
      sums[at - from]! += level * (share * (sound[(own + within) % length] ?? 0) + (1 - share) * (sound[(other + within) % length] ?? 0))
    }
  })
}

/** Where in a tone a piece begins: under a rest at its beginning, under a take in a place that its name decides. */
function toneStart({ take, fromSample }: TrackPiece, length: number): number {
  if (take === null) return 0
  let place = 0
  for (let index = 0; index < take.length; index += 1) place = (place * 31 + take.charCodeAt(index)) % 1_000_003
  return (place * 97 + fromSample) % length
}

/** When each word of an utterance begins, in samples from where it, or the first sound before it, begins, with its written span. None while it has no take of its own. */
export function wordTimes(track: Track, { utterance, take, leadSample, startSample, endSample }: TimedUtterance, { known, isOwn }: Reference): { readonly start: number, readonly end: number, readonly sample: number }[] {
  if (known === null || !isOwn) return []
  const pieces = track.lanes.speech.filter(piece => piece.take === take && piece.startSample >= startSample && piece.startSample < endSample)
  const inTrack = (sample: number): number => {
    const piece = pieces.findLast(({ fromSample }) => fromSample <= sample) ?? pieces[0]
    return piece === undefined ? startSample : piece.startSample + sample - piece.fromSample
  }
  const times: { start: number, end: number, sample: number }[] = []
  const { words, stretches } = utterance
  let word = 0
  for (let i = 0; i < known.wordMarks.length; i += 2) {
    const [place, sample] = [known.wordMarks[i]!, resampledCount(known.wordMarks[i + 1]!, known.sampleRate, track.sampleRate)]
    if (stretches?.some(stretch => stretch.place === place && place > 0) === true) continue
    const from = word
    while (word + 3 < words.length && words[word + 3]! <= place) word += 3
    const [start, end] = [words[word + 1]!, words[word + 2]!]
    const last = times.at(-1)
    // Words spoken as one with the word before them have no time of their own: they belong to that one.
    if (last !== undefined && word > from + 3) times[times.length - 1] = { ...last, end: words[word - 1]! }
    if (last === undefined || last.start !== start) times.push({ start, end, sample: inTrack(sample) - leadSample })
  }
  const behind = words.at(-1)
  if (times.length > 0 && behind !== undefined) times[times.length - 1] = { ...times.at(-1)!, end: behind }
  return times
}
