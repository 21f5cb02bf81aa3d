import { dbToFactor, edgeLevelDb, fullScale, meanSquare, msToSamples } from '#core/audio/pcm'
import type { Piece, Placed } from '../trimmed'

/** The shortest silence that an answer is cut at, ms. */
const leastSilenceMs = 80
/** How far the time of a word may be off, ms. */
const toleranceMs = 150
const windowMs = 5

/** Middle of the longest silence between two samples; null where none is long enough. */
export function silenceBetween(samples: Int16Array, sampleRate: number, from: number, to: number): number | null {
  const window = msToSamples(windowMs, sampleRate)
  const threshold = (dbToFactor(edgeLevelDb) * fullScale) ** 2
  let [longest, middle, start] = [0, 0, -1]
  const end = Math.min(samples.length, to)
  for (let at = Math.max(0, from); at < end; at += window) {
    const isQuiet = meanSquare(samples, at, at + window) < threshold
    if (isQuiet && start < 0) start = at
    if (isQuiet && at + window - start > longest) [longest, middle] = [at + window - start, Math.round((start + at + window) / 2)]
    if (!isQuiet) start = -1
  }
  return longest < msToSamples(leastSilenceMs, sampleRate) ? null : middle
}

/**
 * The pieces of an answer to several texts, which were sent one after the other; `lengths` are those of the texts. It is cut in the silence between the last word of one and the first of the next. Null where
 * that cannot be told: no word of a text has a time, or there is no silence.
 */
export function divided({ samples, words }: Piece, sampleRate: number, lengths: readonly number[]): Piece[] | null {
  const tolerance = msToSamples(toleranceMs, sampleRate)
  const starts: number[] = []
  let length = 0
  for (const each of lengths) {
    starts.push(length)
    length += each
  }
  const own = lengths.map((each, index): Placed[] => words.filter(({ place }) => place >= starts[index]! && place < starts[index]! + each))
  const cuts = [0]
  for (let index = 1; index < lengths.length; index += 1) {
    const [last, first] = [own[index - 1]!.at(-1), own[index]![0]]
    const cut = last === undefined || first === undefined ? null : silenceBetween(samples, sampleRate, last.sample, first.sample + tolerance)
    if (cut === null || cut <= cuts.at(-1)!) return null
    cuts.push(cut)
  }
  cuts.push(samples.length)
  return lengths.map((_, index) => ({
    samples: samples.subarray(cuts[index]!, cuts[index + 1]!),
    words: own[index]!.map(({ place, sample }) => ({ place: place - starts[index]!, sample: Math.max(0, sample - cuts[index]!) })),
  }))
}
