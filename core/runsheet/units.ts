import { msToSamples } from '../audio/pcm'
import { layTrack } from '../audio/track'
import { hash } from '../hash'
import type { CastScore } from '../score/request'
import type { SoundPlay } from '../score/sounds'
import { writtenText } from '../script/content'
import type { Passage } from '../script/script'
import type { OpenReference, Reference } from '../takes/choose'
import { withoutTail } from '../tail'
import { entryOf } from './join'
import type { DividedPart, PartEnd, SheetPassage, SheetUnit } from './split'

/** What of a score can stand in files of its own, at a rate (Hz). Lengths of what is not read yet are estimated. */
export function divided(score: CastScore, references: readonly Reference[], passages: readonly Passage[], sampleRate: number): Pick<DividedPart, 'passages' | 'units' | 'end' | 'sampleRate'> {
  const { sampleCount, timeline } = layTrack(score, references, sampleRate)
  const places = new Map(passages.map(({ id }, index) => [id, index]))
  const groups: Reference[][] = []
  for (const reference of references) {
    const { passageId, beginsSentence } = score.utterances[reference.from]!
    const goesOn = !beginsSentence && groups.length > 0 && score.utterances[groups.at(-1)![0]!.from]!.passageId === passageId
    if (!goesOn) groups.push([])
    groups.at(-1)!.push(reference)
  }
  let before = 0
  const units = groups.map((group): SheetUnit => {
    const [{ from }, last] = [group[0]!, group.at(-1)!]
    const count = last.from + last.count - from
    const end = timeline[from + count - 1]!.endSample
    const samples = end - before
    before = end
    const first = score.utterances[from]!
    return {
      from, count, takes: group.length, missing: group.filter(({ known }) => known === null).length, passage: places.get(first.passageId)!, role: first.role ?? null, samples,
      entryMs: entryOf(first), sound: soundOfUnit(score, group, from, from + count),
    }
  })
  return { passages: passages.map(sheetPassage), units, end: endOf(score, sampleCount - before, sampleRate), sampleRate }
}

function endOf({ soundsAfter, restAfterMs = 0 }: CastScore, samples: number, sampleRate: number): PartEnd {
  return { soundSamples: samples - msToSamples(restAfterMs, sampleRate), restMs: restAfterMs, sound: shortHash([played(soundsAfter).sounds ?? null, restAfterMs]) }
}

/** Hash of all that is heard of a stretch of a score in the takes that are chosen for it: takes, rests, sounds and levels in order. */
function soundOfUnit(score: CastScore, references: readonly OpenReference[], start: number, end: number): string {
  const pieces = references.map(({ from, take, isOwn }) => {
    const { restBeforeMs, gainDb, stretches, soundsBefore } = score.utterances[from]!
    return [restBeforeMs, take, isOwn ? gainDb : 0, (isOwn ? stretches?.map(stretch => ({ ...stretch, ...played(stretch.sounds) })) : null) ?? null, played(soundsBefore).sounds ?? null]
  })
  const beds = (score.beds ?? []).filter(bed => bed.from < end && bed.to >= start).map(bed => ({ ...bed, from: bed.from - start, to: bed.to - start }))
  return shortHash([pieces, ...(beds.length === 0 ? [] : [beds]), ...(score.roomTone === undefined ? [] : [score.roomTone.key])])
}

/** 128 bits are enough to tell sounds apart. */
const shortHash = (value: unknown): string => hash(value).slice(0, 32)

/** Sounds without the rate that their samples are counted at, which their key decides. */
function played(sounds: readonly SoundPlay[] | undefined): { readonly sounds?: readonly Omit<SoundPlay, 'sampleRate'>[] } {
  return sounds === undefined ? {} : { sounds: sounds.map(({ sampleRate: _, ...sound }) => sound) }
}

/** A file that begins with a passage is called by so many of its words and letters at most. */
const titleWords = 6
const titleLetters = 60

/** A passage as the run sheet sees it. */
function sheetPassage({ id, kind, level, content, announcement }: Passage): SheetPassage {
  const words = writtenText(content).trim().split(/\s+/u)
  const title = kind === 'title' || kind === 'heading' ? words.join(' ') : words.slice(0, titleWords).join(' ').slice(0, titleLetters)
  return { id, kind, level: level ?? null, title: withoutTail(announcement?.title ?? title, /[\s.,;:!?…]/u), ...(announcement === undefined ? {} : { announcement }) }
}
