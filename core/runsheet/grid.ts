import { msToSamples } from '../audio/pcm'
import type { Track, TrackPiece } from '../audio/track'

/** The frames of an encoder, which the pieces of a track are laid on. */
export interface FrameGrid {
  /** Samples of a frame. */
  readonly frameSamples: number
  /** Hz, of the encoded file. */
  readonly sampleRate: number
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

/** A piece is as near to the first as its passages allow, and at most the second, s. */
const shortestSeconds = 20
const longestSeconds = 60

/** A rest that is cut in is at least this long, ms, so that neither side reaches the speech of the other. */
const shortestRestMs = 100

/** Of a rest that is cut, what stays with the piece after it, ms: what an encoder looks ahead is quiet then, and a longer rest keeps apart what it looks back at. */
const leadInMs = 100

/**
 * Cuts a track into pieces of 20 to 60 s, in the rests between passages, or between sentences where a passage is longer. Where it is cut depends on what is said there and
 * not on how far from the beginning it is, so that an insertion moves only its neighbours. The rest before a cut becomes longer or shorter by at most half a frame, so that
 * every piece is a whole number of frames.
 */
export function onGrid(track: Track, grid: FrameGrid): GridTrack {
  const cuts = cutsOf(track)
  const perFrame = grid.frameSamples * track.sampleRate / grid.sampleRate
  const stretches: Stretch[] = []
  const shifts: Shift[] = []
  let moved = 0
  let start = 0
  for (const cut of cuts) {
    const frames = Math.max(1, Math.round((cut + moved - start) / perFrame))
    const end = start + Math.round(frames * perFrame)
    shifts.push({ at: cut, by: end - cut - moved })
    moved = end - cut
    stretches.push({ startSample: start, endSample: end, frames })
    start = end
  }
  const sampleCount = track.sampleCount + moved
  stretches.push({ startSample: start, endSample: sampleCount, frames: Math.ceil((sampleCount - start) / perFrame) })
  return { track: shifts.every(shift => shift.by === 0) ? track : shifted(track, shifts, sampleCount), stretches }
}

interface Candidate {
  readonly at: number
  /** What is said after it, as the id of its take. */
  readonly take: string
}

function cutsOf(track: Track): number[] {
  const [betweenPassages, betweenSentences] = candidates(track)
  const seconds = (count: number): number => count * track.sampleRate
  const cuts: number[] = []
  let start = 0
  while (track.sampleCount - start > seconds(longestSeconds)) {
    const [from, to] = [start + seconds(shortestSeconds), start + seconds(longestSeconds)]
    const cut = chosen(betweenPassages, from, to) ?? chosen(betweenSentences, from, to) ?? betweenSentences.find(({ at }) => at > to)?.at
    if (cut === undefined) break
    cuts.push(cut)
    start = cut
  }
  return cuts
}

/** Of the candidates between two places that whose take has the lowest id, which is as good as by chance but the same every time. */
function chosen(all: readonly Candidate[], from: number, to: number): number | undefined {
  let best: Candidate | undefined
  for (const each of all) if (each.at >= from && each.at <= to && (best === undefined || each.take < best.take)) best = each
  return best?.at
}

function candidates({ timeline, sampleRate }: Track): readonly [Candidate[], Candidate[]] {
  const shortest = msToSamples(shortestRestMs, sampleRate)
  const leadIn = msToSamples(leadInMs, sampleRate)
  const betweenPassages: Candidate[] = []
  const betweenSentences: Candidate[] = []
  timeline.forEach(({ utterance, take, restSample, leadSample, startSample }, index) => {
    const before = timeline[index - 1]
    const rest = leadSample - restSample
    // A sound before the speech has a rest of its own; a cut there would have to know what it sounds like.
    if (before === undefined || leadSample !== startSample || rest < shortest) return
    const candidate = { at: leadSample - Math.min(leadIn, rest >> 1), take }
    betweenSentences.push(candidate)
    if (before.utterance.passageId !== utterance.passageId) betweenPassages.push(candidate)
  })
  return [betweenPassages, betweenSentences]
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
  return { ...track, sampleCount, lanes: { speech: resized, beds }, timeline }
}
