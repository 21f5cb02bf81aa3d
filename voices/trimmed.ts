import { fadeEdge, joined, msToSamples, quietAround, trimEdges } from '#core/audio/pcm'
import type { Spoken } from './port'

export interface Placed {
  /** In what is sent, as its engine counts, from 0. */
  readonly place: number
  readonly sample: number
}

/** The speech without the quiet at its edges, and without that around the places where a rest will be put. */
export function trimmed(all: Int16Array, sampleRate: number, words: readonly Placed[], cuts: readonly (Placed & { isRest: boolean })[]): Spoken {
  const speech = trimEdges({ samples: all, sampleRate })
  const pieces: { from: number, to: number }[] = []
  let from = 0
  for (const { sample } of cuts.filter(cut => cut.isRest)) {
    const { end, start } = quietAround({ samples: speech.samples, sampleRate }, sample - speech.offset)
    pieces.push({ from, to: Math.max(from, end) })
    from = Math.max(from, start)
  }
  pieces.push({ from, to: speech.samples.length })
  /** Where a sample of the speech is in the take. */
  const inTake = (sample: number): number => {
    let before = 0
    for (const piece of pieces) {
      if (sample < piece.to) return before + Math.max(0, sample - piece.from)
      before += piece.to - piece.from
    }
    return before
  }
  const wordMarks: number[] = []
  const marked = [...words, ...cuts].map(each => ({ place: each.place, sample: inTake(Math.max(0, each.sample - speech.offset)) })).sort((a, b) => a.place - b.place)
  for (const { place, sample } of marked) {
    if (place <= (wordMarks.at(-2) ?? -1)) continue
    wordMarks.push(place, Math.max(wordMarks.at(-1) ?? 0, sample))
  }
  if (pieces.length === 1) return { samples: speech.samples, sampleRate, wordMarks }
  const parts = pieces.map((piece, index) => {
    const part = speech.samples.slice(piece.from, piece.to)
    if (index > 0) fadeEdge(part, sampleRate, 'in')
    if (index < pieces.length - 1) fadeEdge(part, sampleRate, 'out')
    return part
  })
  return { samples: joined(parts), sampleRate, wordMarks }
}

/** Between two pieces of a sentence that are spoken one by one. */
const betweenPiecesMs = 40

/** A piece as its engine gives it. */
export interface Piece {
  readonly samples: Int16Array
  readonly words: readonly Placed[]
}

export interface Laid extends Piece {
  /** Where each piece begins. */
  readonly begins: readonly number[]
}

/** Pieces that were spoken one by one, without the quiet at their edges, a short one between them. */
export function laid(pieces: readonly Piece[], sampleRate: number): Laid {
  if (pieces.length === 1) return { ...pieces[0]!, begins: [0] }
  const chunks: Int16Array[] = []
  const words: Placed[] = []
  const begins: number[] = []
  let at = 0
  for (const piece of pieces) {
    const { samples, offset } = trimEdges({ samples: piece.samples, sampleRate })
    if (at > 0 && samples.length > 0) {
      const quiet = new Int16Array(msToSamples(betweenPiecesMs, sampleRate))
      chunks.push(quiet)
      at += quiet.length
    }
    const begin = at
    begins.push(begin)
    words.push(...piece.words.map(({ place, sample }) => ({ place, sample: begin + Math.max(0, sample - offset) })))
    chunks.push(samples)
    at += samples.length
  }
  return { samples: joined(chunks), words, begins }
}
