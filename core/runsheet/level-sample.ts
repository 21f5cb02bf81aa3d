import { samplesToMs } from '../audio/pcm'
import { takeId } from '../takes/take'
import { missingIn, type HeardPart, type SheetFile } from './run-sheet'

interface SampledTake {
  readonly take: string
  /** At which it is heard. */
  readonly gainDb: number
  /** How often it is heard. */
  readonly times: number
}

/** What is measured to find the level of a whole production: some of its takes. */
export interface LevelSample {
  readonly takes: readonly SampledTake[]
  /** How much of all files is speech, margins and rests being the other part. */
  readonly speechShare: number
}

/** So much speech tells the level of a production: voices differ by tenths of a dB from sentence to sentence, and those cancel out; ms. */
const sampledMs = 5 * 60_000

/**
 * Some of the takes of a run sheet, as far as they are made. They are chosen by their ids, which are as good as drawn by lot: not by their place, so that every division has the same,
 * and an edit changes few of them.
 */
export function levelSample(files: readonly SheetFile<HeardPart>[]): LevelSample {
  const heard = new Map<string, { readonly ms: number, readonly gainDb: number, readonly times: number }>()
  let [speechMs, wholeMs] = [0, 0]
  for (const { spans, sampleCount } of files.filter(file => missingIn(file) === 0)) {
    wholeMs += samplesToMs(sampleCount, spans[0]!.part.sampleRate)
    for (const { part: { score, references }, units } of spans) {
      const end = units.at(-1)!.from + units.at(-1)!.count
      for (const { from, known, isOwn } of references) {
        if (from < units[0]!.from || from >= end || known === null) continue
        const ms = samplesToMs(known.sampleCount, known.sampleRate)
        speechMs += ms
        const take = takeId(known)
        heard.set(take, { ms, gainDb: isOwn ? score.utterances[from]!.gainDb : 0, times: (heard.get(take)?.times ?? 0) + 1 })
      }
    }
  }
  const takes: SampledTake[] = []
  let sampled = 0
  for (const [take, { ms, gainDb, times }] of [...heard].sort(([a], [b]) => a < b ? -1 : 1)) {
    if (sampled >= sampledMs) break
    takes.push({ take, gainDb, times })
    sampled += ms
  }
  return { takes, speechShare: wholeMs === 0 ? 1 : speechMs / wholeMs }
}
