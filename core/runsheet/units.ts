import { samplesToMs } from '../audio/pcm'
import { layTrack } from '../audio/track'
import type { CastScore } from '../score/request'
import { writtenText } from '../script/content'
import type { Passage } from '../script/script'
import type { Reference } from '../takes/choose'
import { withoutTail } from '../tail'
import type { SheetPassage, SheetUnit } from './split'

/** What of a score can stand in a file of its own, at a rate (Hz): a sentence, or all that one take says. Lengths of what is not read yet are estimated. */
export function unitsOf(score: CastScore, references: readonly Reference[], passages: readonly Pick<Passage, 'id'>[], sampleRate: number): SheetUnit[] {
  const places = new Map(passages.map(({ id }, index) => [id, index]))
  const { timeline } = layTrack(score, references, sampleRate)
  const units: SheetUnit[] = []
  let before = 0
  for (const { from, count } of references) {
    const { passageId, beginsSentence } = score.utterances[from]!
    const end = timeline[from + count - 1]!.endSample
    const durationMs = samplesToMs(end - before, sampleRate)
    before = end
    const last = units.at(-1)
    const passage = places.get(passageId)!
    if (last?.passage === passage && !beginsSentence) units[units.length - 1] = { ...last, count: last.count + count, durationMs: last.durationMs + durationMs }
    else units.push({ from, count, passage, durationMs })
  }
  return units
}

/** A file that begins with a passage is called by so many of its words and letters at most. */
const titleWords = 6
const titleLetters = 60

/** A passage as the run sheet sees it. */
export function sheetPassage({ id, kind, level, content }: Passage): SheetPassage {
  const words = writtenText(content).trim().split(/\s+/u)
  const title = kind === 'title' || kind === 'heading' ? words.join(' ') : words.slice(0, titleWords).join(' ').slice(0, titleLetters)
  return { id, kind, level: level ?? null, emptyLines: 0, title: withoutTail(title, /[\s.,;:!?…]/u) }
}
