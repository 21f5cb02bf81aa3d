import { fadeEdge, quietAround, trimEdges } from '#core/audio/pcm'
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

export function joined(chunks: readonly Int16Array[]): Int16Array {
  const all = new Int16Array(chunks.reduce((sum, chunk) => sum + chunk.length, 0))
  let at = 0
  for (const chunk of chunks) {
    all.set(chunk, at)
    at += chunk.length
  }
  return all
}
