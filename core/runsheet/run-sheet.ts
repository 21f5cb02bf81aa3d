import { roundedMs } from '../delivery/manifest'
import { id3Language } from '../delivery/id3-language'
import { extensions, type DeliveryProfile } from '../delivery/profile'
import type { Track } from '../audio/track'
import { hash } from '../score/request'
import { gainOf, type PartScore } from '../score/compile'
import { fileName } from './file-name'

/** A part as the run sheet sees it. */
export interface RunSheetPart {
  readonly id: string
  /** Its place in the script, from 1. */
  readonly number: number
  readonly label: string
  readonly score: PartScore
}

/** One file that will be made. */
export interface RunSheetFile {
  /** Place in the delivery, from 1. */
  readonly number: number
  /** With extension; unique in the delivery. */
  readonly name: string
  readonly title: string
  /** Places in the script of the parts it holds, from 1. */
  readonly parts: readonly number[]
  readonly part: RunSheetPart
}

/** One file a part, in order. Parts without anything to speak make no file. Names differ because their numbers do. */
export function runSheet(parts: readonly RunSheetPart[], profile: DeliveryProfile): RunSheetFile[] {
  const spoken = parts.filter(part => part.score.utterances.length > 0)
  return spoken.map((part, index) => ({
    number: index + 1,
    name: fileName(profile.namePattern, index + 1, spoken.length, part.label) + extensions[profile.format],
    title: part.label,
    parts: [part.number],
    part,
  }))
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
export function tagsFor(file: RunSheetFile, fileCount: number, work: DeliveredWork): FileTags {
  return {
    title: file.title, track: file.number, trackCount: fileCount,
    album: work.title, author: work.author ?? '', language: id3Language(work.language),
  }
}

/**
 * Hash of everything that decides a file's bytes: takes and rests in order, level, tags, profile, encoder.
 * Equal fingerprints, equal bytes.
 */
export function fileFingerprint(score: PartScore, tags: FileTags, profile: DeliveryProfile, encoder: string): string {
  const { namePattern: _, ...audible } = profile
  const pieces = score.utterances.map(utterance => [utterance.restBeforeMs, utterance.key, gainOf(score, utterance), utterance.stretches ?? null, utterance.soundsBefore ?? null])
  return hash([pieces, score.soundsAfter ?? null, score.restAfterMs ?? 0, tags, audible, encoder])
}

/** Length of a track in ms. */
export function trackMs(track: Track): number {
  return roundedMs(track.sampleCount, track.sampleRate)
}
