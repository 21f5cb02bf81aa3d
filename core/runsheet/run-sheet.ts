import { id3Language } from '../delivery/id3-language'
import { extensions, type DeliveryProfile } from '../delivery/profile'
import { hash } from '../hash'
import type { CastScore } from '../score/request'
import type { SoundPlay } from '../score/sounds'
import type { OpenReference } from '../takes/choose'
import { fileName, numberLabel } from './file-name'
import { joinSpans } from './join'
import { splitFiles, type DividedPart, type FileMarks, type Split } from './split'

/** A part as the run sheet sees it. */
export interface SheetPart {
  readonly id: string
  /** Its place in the script, from 1. */
  readonly number: number
  readonly label: string
  /** Whether there is anything in it to speak. */
  readonly isSpoken: boolean
}

/** A part of which files are made. */
export interface RunSheetPart extends SheetPart {
  readonly score: CastScore
  /** The takes in which it is heard. */
  readonly references: readonly OpenReference[]
}

/** One file that will be made. */
export interface RunSheetFile<P extends SheetPart = RunSheetPart> {
  /** Place in the delivery, from 1. */
  readonly number: number
  /** With extension; unique in the delivery. */
  readonly name: string
  readonly title: string
  /** Places in the script of the parts it holds, from 1. */
  readonly parts: readonly number[]
  readonly part: P
}

/** One file a part, in order. Parts without anything to speak make no file. Names differ because their numbers do. */
export function runSheet<P extends SheetPart = RunSheetPart>(parts: readonly P[], profile: DeliveryProfile): RunSheetFile<P>[] {
  const spoken = parts.filter(part => part.isSpoken)
  return spoken.map((part, index) => ({
    number: index + 1,
    name: fileName(profile.namePattern, numberLabel(index + 1, spoken.length), part.label) + extensions[profile.format],
    title: part.label,
    parts: [part.number],
    part,
  }))
}

/** A part that can be divided, with what is heard of it. */
export interface HeardPart extends DividedPart {
  readonly score: CastScore
  readonly references: readonly OpenReference[]
}

/** The files that a script is divided into, in order. Names differ because their numbers do. */
export function dividedSheet(parts: readonly HeardPart[], split: Split, profile: DeliveryProfile, marks?: FileMarks): RunSheetFile[] {
  const marginsMs = profile.headMs + profile.tailMs
  const files = splitFiles(parts, { ...split, longestMs: split.longestMs === null ? null : Math.max(1, split.longestMs - marginsMs) }, marks)
  const groups = files.at(-1)?.group ?? 0
  return files.map(({ group, piece, title, spans }, index) => {
    const { part: { id, number } } = spans[0]!
    const stretches = spans.map(({ part: { score, references }, units }) => ({ score, references, from: units[0]!.from, to: units.at(-1)!.from + units.at(-1)!.count }))
    return {
      number: index + 1,
      name: fileName(profile.namePattern, numberLabel(group, groups, piece), title) + extensions[profile.format],
      title, parts: spans.map(({ part }) => part.number),
      part: { id, number, label: title, isSpoken: true, ...joinSpans(stretches, profile.partRestMs) },
    }
  })
}

/** What is delivered, apart from its files. */
export interface DeliveredWork {
  readonly title: string
  readonly author: string | null
  /** BCP 47 */
  readonly language: string
}

/** Tags that are written into a file, and so decide its bytes. */
export interface FileTags {
  readonly title: string
  readonly track: number
  readonly trackCount: number
  readonly album: string
  readonly author: string
  /** ISO 639-2 */
  readonly language: string
}

/** The tags of one file of a run sheet. */
export function tagsFor(file: Pick<RunSheetFile, 'title' | 'number'>, fileCount: number, work: DeliveredWork): FileTags {
  return {
    title: file.title, track: file.number, trackCount: fileCount,
    album: work.title, author: work.author ?? '', language: id3Language(work.language),
  }
}

/** Hash of all that is heard of a score in the takes that are chosen for it: takes, rests, sounds and levels in order. */
export function soundOf(score: CastScore, references: readonly OpenReference[]): string {
  const pieces = references.map(({ from, take, isOwn }) => {
    const { restBeforeMs, gainDb, stretches, soundsBefore } = score.utterances[from]!
    return [restBeforeMs, take, isOwn ? gainDb : 0, (isOwn ? stretches?.map(stretch => ({ ...stretch, ...played(stretch.sounds) })) : null) ?? null, played(soundsBefore).sounds ?? null]
  })
  return hash([pieces, played(score.soundsAfter).sounds ?? null, score.restAfterMs ?? 0, ...(score.beds === undefined ? [] : [score.beds])])
}

/** Sounds without the rate that their samples are counted at, which their key decides. */
function played(sounds: readonly SoundPlay[] | undefined): { readonly sounds?: readonly Omit<SoundPlay, 'sampleRate'>[] } {
  return sounds === undefined ? {} : { sounds: sounds.map(({ sampleRate: _, ...sound }) => sound) }
}

/**
 * Hash of everything that decides a file's bytes and its verdict: what is heard (`soundOf`), tags, profile, encoder.
 * Equal fingerprints, equal bytes.
 */
export function fileFingerprint(sound: string, tags: FileTags, profile: DeliveryProfile, encoder: string): string {
  const { name: _, namePattern: __, ...deciding } = profile
  return hash([sound, tags, deciding, encoder])
}
