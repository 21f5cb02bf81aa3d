import { msToSamples } from '../audio/pcm'
import type { Track, TrackPiece } from '../audio/track'

/** The frames of an encoder, which the pieces of a track are laid on. */
export interface FrameGrid {
  /** Samples of a frame. */
  readonly frameSamples: number
  /** Hz, of the encoded file. */
  readonly sampleRate: number
  /** Silence before the first word of a file. */
  readonly headMs: number
}

/** A piece of a track that is encoded by itself. */
export interface Stretch {
  /** In samples of the track. */
  readonly startSample: number
  readonly endSample: number
  /** Frames of the encoded file; the last piece of a file has as many as its samples need. */
  readonly frames: number
}

/** A track whose pieces begin on the frames of an encoder. */
export interface GridTrack {
  readonly track: Track
  readonly stretches: readonly Stretch[]
}

/** A piece is as near to the first or above it, and to the second or below it, as its passages allow, s; between two long rests it can be shorter. */
const shortestSeconds = 20
const longestSeconds = 60

/** Rests from this length on are always cut in, ms. */
const longRestMs = 1500

/**
 * A rest of at least this length that is cut in, ms, is a piece of its own: what is said before and after it is the same piece in the middle of a file as at its
 * beginning or end.
 */
const ownRestMs = 550

/** Of such a rest, what stays with the speech before it, ms: more than an encoder looks back and ahead. */
const quietMs = 350

/** A rest that is cut in is at least this long, ms, so that neither side reaches the speech of the other. */
const shortestRestMs = 100

/** Of a rest that is cut, what stays with the piece after it, ms: what an encoder looks ahead is quiet then, and a longer rest keeps apart what it looks back at. */
const leadInMs = 100

/**
 * Cuts a track into pieces of 20 to 60 s, in the rests between passages, or between sentences where a passage is longer. Where it is cut depends on what is said there and
 * not on how far from the beginning it is, so that an insertion moves only its neighbours. The rest before a cut becomes longer or shorter by at most half a frame, so that
 * every piece is a whole number of frames. All but short rests are pieces of their own then, which make up for what the piece before was rounded by; head and tail stay as they are.
 */
export function onGrid(track: Track, grid: FrameGrid): GridTrack {
  const perFrame = grid.frameSamples * track.sampleRate / grid.sampleRate
  const stretches: Stretch[] = []
  const shifts: Shift[] = []
  let moved = 0
  /** What was moved before the rest that is cut. */
  let movedBefore = 0
  let start = 0
  for (const { at, silence } of cutsOf(track, leadOf(track, grid, perFrame))) {
    const wanted = at + (silence === 'ends' ? movedBefore : moved)
    const frames = Math.max(1, Math.round((wanted - start) / perFrame))
    const end = start + Math.round(frames * perFrame)
    shifts.push({ at, by: end - at - moved })
    movedBefore = silence === 'begins' ? moved : end - at
    moved = end - at
    stretches.push({ startSample: start, endSample: end, frames })
    start = end
  }
  const sampleCount = track.sampleCount + movedBefore
  stretches.push({ startSample: start, endSample: sampleCount, frames: Math.ceil((sampleCount - start) / perFrame) })
  return { track: shifts.every(shift => shift.by === 0) ? track : shifted(track, shifts, sampleCount), stretches }
}

/** Samples of silence that a piece behind a rest of its own begins with: as many as make the head of a file whole frames before it. */
function leadOf({ sampleRate }: Track, { headMs }: FrameGrid, perFrame: number): number {
  const [head, leadIn] = [msToSamples(headMs, sampleRate), msToSamples(leadInMs, sampleRate)]
  return head < leadIn ? leadIn : head - Math.round(Math.floor((head - leadIn) / perFrame) * perFrame)
}

/** A place where a track is cut, and whether a rest that is a piece of its own begins or ends there. */
interface Cut {
  readonly at: number
  readonly silence?: 'begins' | 'ends'
}

/** A rest that can be cut in. */
interface Candidate {
  readonly at: number
  /** What is said after it, as the id of its take. */
  readonly take: string
  /** Where it begins and ends, if it can be a piece of its own. */
  readonly rest: Rest | null
}

function cutsOf(track: Track, lead: number): Cut[] {
  const { betweenPassages, betweenSentences, byHand } = candidates(track)
  const seconds = (count: number): number => count * track.sampleRate
  const quiet = msToSamples(quietMs, track.sampleRate)
  const cuts: Cut[] = []
  let start = 0
  const cut = (at: number, silence?: Cut['silence']): void => {
    cuts.push(silence === undefined ? { at } : { at, silence })
    start = at
  }
  const cutIn = ({ at, rest }: Candidate): void => {
    if (rest === null) {
      cut(at)
      return
    }
    cut(rest.from + quiet, 'begins')
    cut(rest.to - lead, 'ends')
  }
  // What is longer than a piece may be from one such place to the next.
  const shorten = (end: number): void => {
    while (end - start > seconds(longestSeconds)) {
      const [from, to] = [start + seconds(shortestSeconds), Math.min(start + seconds(longestSeconds), end - seconds(shortestSeconds))]
      const hand = chosen(byHand, from, to)
      const beyond = (): Candidate | undefined => nearest(betweenSentences.filter(({ at }) => at > start + lead && at < Math.min(end, to + seconds(shortestSeconds))), from, to)
      const found = chosen(betweenPassages, from, to) ?? chosen(betweenSentences, from, to) ?? (hand === undefined ? undefined : beyond() ?? hand) ?? [...betweenSentences, ...byHand].find(each => each.at > to && each.at < end)
      if (found === undefined) break
      cutIn(found)
    }
  }
  const cutUpTo = (end: number): void => {
    if (end - start <= seconds(longestSeconds)) return
    for (const anchor of lowest(betweenPassages.filter(({ at }) => at > start + lead && at < end), seconds(shortestSeconds))) {
      shorten(anchor.at)
      cutIn(anchor)
    }
    shorten(end)
  }
  for (const rest of restsOf(track)) {
    if (rest.from > 0) {
      cutUpTo(rest.from + quiet)
      cut(rest.from + quiet, 'begins')
    }
    if (rest.to < track.sampleCount && rest.to - lead > start) cut(rest.to - lead, 'ends')
  }
  cutUpTo(track.sampleCount)
  return cuts
}

interface Rest {
  readonly from: number
  readonly to: number
}

/** The head of a track, its long rests, and its tail where that is long enough. A rest that is set by hand stays as it is. */
function restsOf({ lanes: { speech }, timeline, sampleCount, sampleRate }: Track): Rest[] {
  const rests: Rest[] = []
  for (const { take, startSample, sampleCount: length } of speech) {
    if (take !== null) continue
    const last = rests.at(-1)
    if (last?.to === startSample) rests[rests.length - 1] = { from: last.from, to: startSample + length }
    else rests.push({ from: startSample, to: startSample + length })
  }
  const [long, quiet] = [msToSamples(longRestMs, sampleRate), msToSamples(quietMs, sampleRate)]
  const ruled = new Set(timeline.filter(({ utterance }) => utterance.restIsDirected !== true).map(({ leadSample }) => leadSample))
  return rests.filter(({ from, to }) => from === 0 || (to === sampleCount ? to - from >= 2 * quiet : to - from >= long && ruled.has(to)))
}

/** Of the candidates between two places that whose take has the lowest id, which is as good as by chance but the same every time. */
function chosen(all: readonly Candidate[], from: number, to: number): Candidate | undefined {
  let best: Candidate | undefined
  for (const each of all) if (each.at >= from && each.at <= to && (best === undefined || each.take < best.take)) best = each
  return best
}

/** Of the candidates, the one that is least outside of two places; of two the first. */
function nearest(all: readonly Candidate[], from: number, to: number): Candidate | undefined {
  const outside = ({ at }: Candidate): number => Math.max(from - at, at - to)
  return all.reduce<Candidate | undefined>((best, each) => best === undefined || outside(each) < outside(best) ? each : best, undefined)
}

/** Those of candidates than which no other within reach has a lower id: where they are does not depend on what is farther away, so that a file that begins or ends elsewhere has the same. */
function lowest(all: readonly Candidate[], reach: number): Candidate[] {
  return all.filter(({ at, take }, index) => {
    for (let before = index - 1; before >= 0 && at - all[before]!.at <= reach; before -= 1) if (all[before]!.take <= take) return false
    for (let after = index + 1; after < all.length && all[after]!.at - at <= reach; after += 1) if (all[after]!.take < take) return false
    return true
  })
}

/** The rests in which a track can be cut. Those that were set by hand are cut in only where there are no others, also if a piece is a little shorter or longer than it should be. */
interface Candidates {
  readonly betweenPassages: readonly Candidate[]
  /** These too. */
  readonly betweenSentences: readonly Candidate[]
  readonly byHand: readonly Candidate[]
}

function candidates({ timeline, sampleRate }: Track): Candidates {
  const shortest = msToSamples(shortestRestMs, sampleRate)
  const leadIn = msToSamples(leadInMs, sampleRate)
  const betweenPassages: Candidate[] = []
  const betweenSentences: Candidate[] = []
  const byHand: Candidate[] = []
  const own = msToSamples(ownRestMs, sampleRate)
  timeline.forEach(({ utterance, take, restSample, leadSample, startSample }, index) => {
    const before = timeline[index - 1]
    const rest = leadSample - restSample
    // A sound before the speech has a rest of its own; a cut there would have to know what it sounds like.
    if (before === undefined || leadSample !== startSample || rest < shortest) return
    const candidate = { at: leadSample - Math.min(leadIn, rest >> 1), take, rest: rest >= own && utterance.restIsDirected !== true ? { from: restSample, to: leadSample } : null }
    if (utterance.restIsDirected === true) {
      byHand.push(candidate)
      return
    }
    betweenSentences.push(candidate)
    if (before.utterance.passageId !== utterance.passageId) betweenPassages.push(candidate)
  })
  return { betweenPassages, betweenSentences, byHand }
}

/** At a place, in a rest, a track becomes longer or shorter. */
interface Shift {
  readonly at: number
  readonly by: number
}

function shifted(track: Track, shifts: readonly Shift[], sampleCount: number): Track {
  // Places are asked for in order, so that the next shift is where the last answer was.
  const mover = (): (at: number) => number => {
    let next = 0
    let moved = 0
    return at => {
      while (next < shifts.length && shifts[next]!.at <= at) {
        moved += shifts[next]!.by
        next += 1
      }
      return at + moved
    }
  }
  const begin = mover()
  const speech = track.lanes.speech.map((piece): TrackPiece => ({ ...piece, startSample: begin(piece.startSample) }))
  const resized = speech.map((piece, index) => ({ ...piece, sampleCount: (speech[index + 1]?.startSample ?? sampleCount) - piece.startSample }))
  const [rest, lead, from, to] = [mover(), mover(), mover(), mover()]
  const timeline = track.timeline.map(each => ({
    ...each, restSample: rest(each.restSample), leadSample: lead(each.leadSample), startSample: from(each.startSample), endSample: to(each.endSample),
  }))
  const beds = track.lanes.beds.map(bed => {
    const startSample = mover()(bed.startSample)
    return { ...bed, startSample, sampleCount: mover()(bed.startSample + bed.sampleCount) - startSample }
  })
  return { ...track, sampleCount, lanes: { ...track.lanes, speech: resized, beds }, timeline }
}
