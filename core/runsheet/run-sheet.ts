import { msToSamples } from '../audio/pcm'
import type { WorkCover, WorkDetails } from '../delivery/details'
import { bytesPerSecond, coverBytesIn, formatOf } from '../delivery/formats'
import { id3Language } from '../delivery/id3-language'
import { namesSpeaker, type SpeakerNames } from '../delivery/naming'
import type { DeliveryProfile } from '../delivery/profile'
import { hash } from '../hash'
import type { CastScore } from '../score/request'
import type { OpenReference, Reference } from '../takes/choose'
import { count } from '../tally'
import { fileNaming, numberLabel, writing } from './file-name'
import { joinSpans } from './join'
import { fileNumbers, ownOf, type OwnTags } from './own'
import { splitFiles, type DividedPart, type FileSpan, type SheetPlaces, type SplitFile } from './split'

/** One file that will be made. */
export interface SheetFile<P extends DividedPart = DividedPart> {
  /** Tells it from the others as long as they begin in the same places: the part that it begins in, and its place among the files that do. */
  readonly key: string
  /** Place in the delivery, from 1. */
  readonly number: number
  /** The number as it is in its name. */
  readonly label: string
  /** With extension; unique in the delivery. */
  readonly name: string
  readonly title: string
  readonly spans: readonly FileSpan<P>[]
  /** As in `SplitFile`. */
  readonly announces: SplitFile['announces']
  readonly canGoOn: boolean
  /** Places in the script of the parts it holds, from 1. */
  readonly parts: readonly number[]
  /** With margins, at the rate of its parts. */
  readonly sampleCount: number
  /** None where there would be one only. */
  readonly chapters: readonly ChapterStart[]
  readonly own: OwnTags
}

/** Where a chapter begins in a file. */
export interface ChapterStart {
  readonly title: string
  /** Utterance of the file. */
  readonly from: number
}

/** The same with what is heard in it. */
export interface RunSheetFile extends Pick<SheetFile, 'key' | 'number' | 'name' | 'title' | 'parts' | 'chapters' | 'own'> {
  /** `soundOf` */
  readonly sound: string
  readonly score: CastScore
  /** The takes in which it is heard. */
  readonly references: readonly OpenReference[]
}

/** Tags, the frame with the length, and what is rounded up take so much of a file at most; bytes. */
const otherBytes = 20_000

/** The files that a script is divided into, in order. Names differ because their numbers do. */
export function runSheet<P extends DividedPart>(parts: readonly P[], profile: DeliveryProfile, places?: SheetPlaces): SheetFile<P>[] {
  const { where, aboutMs, longestMs, largestBytes } = profile.split
  const largestMs = largestBytes === null ? Infinity : (largestBytes - otherBytes - coverBytesIn(profile, places?.coverBytes ?? 0)) * 1000 / bytesPerSecond(profile)
  const most = Math.min(longestMs ?? Infinity, largestMs) - profile.headMs - profile.tailMs
  const divided = splitFiles(parts, where, { aboutMs, longestMs: Math.max(1, most), partRestMs: profile.partRestMs }, places)
  const texts = divided.filter(file => file.announces === null)
  const isAll = (file: SplitFile): boolean => texts.length === 1 && file === texts[0] && file.spans.length > 1
  const files = divided.map(file => isAll(file) ? { ...file, title: places?.work?.production ?? file.title } : file)
  const { namePattern, nameRules } = profile
  const numbers = fileNumbers(files, nameRules)
  const lastNumber = numbers.at(-1)?.number ?? 0
  const begun = new Map<string, number>()
  const titled = new Map<string, number>()
  for (const { spans, title } of files) count(titled, titleKey(spans, title))
  const seen = new Map<string, number>()
  const safeTitles = new Map<string, string>()
  const safe = (title: string): string => {
    const known = safeTitles.get(title) ?? writing[nameRules.letters](title)
    safeTitles.set(title, known)
    return known
  }
  const named = fileNaming(namePattern, nameRules, safe)
  const { extension } = formatOf(profile.format)
  return files.map(({ title, spans, announces, canGoOn }, index) => {
    const { part: { id, label: part, about } } = spans[0]!
    const own = ownOf(spans.map(span => span.part))
    const place = begun.get(id) ?? 0
    if (announces === null) begun.set(id, place + 1)
    const alike = titleKey(spans, title)
    count(seen, alike)
    const of = titled.get(alike)!
    const speaker = namesSpeaker(namePattern) ? mainSpeaker(spans, places) : undefined
    const { number, piece } = numbers[index]!
    const label = numberLabel(number, lastNumber, piece, nameRules.digits ?? undefined)
    return {
      key: `${id}.${announces ?? place}`, number: index + 1, label, name: named({
        ...places?.work, ...own, ...speaker, number: label, within: numberLabel(place + 1, 0), title, part, slide: about?.slide === undefined ? '' : numberLabel(about.slide, 0),
      }) + extension,
      title: of === 1 ? title : `${title} (${seen.get(alike)}/${of})`,
      own, spans, announces, canGoOn, parts: spans.map(({ part }) => part.number), sampleCount: samplesOf(spans, profile), chapters: chaptersOf(spans),
    }
  })
}

/** Who says most of a file, of those who say as much the first; undefined where that is the narrator. */
function mainSpeaker(spans: readonly FileSpan[], { speakers }: SheetPlaces = {}): SpeakerNames | undefined {
  const heard = new Map<string | null, number>()
  for (const { part, units } of spans) {
    for (const { role, samples } of units) heard.set(role, (heard.get(role) ?? 0) + samples / part.sampleRate)
  }
  const [main] = [...heard].sort(([, one], [, other]) => other - one)[0]!
  return main === null ? undefined : speakers?.get(main)
}

/** Files that begin in one part can have one title; they are counted. */
const titleKey = ([span]: readonly FileSpan[], title: string): string => `${span!.part.id} ${title}`

/** The parts of a file, or where it has only one, the headings in it. */
function chaptersOf(spans: readonly FileSpan[]): ChapterStart[] {
  const starts: ChapterStart[] = []
  let before = 0
  for (const { part: { label, passages }, units } of spans) {
    const first = units[0]!.from
    if (spans.length > 1) starts.push({ title: label, from: before })
    else {
      units.forEach(({ from, passage }, index) => {
        const { kind, title } = passages[passage]!
        const begins = units[index - 1]?.passage !== passage
        if (index === 0) starts.push({ title: kind === 'heading' ? title : label, from: 0 })
        else if (begins && kind === 'heading') starts.push({ title, from: from - first })
      })
    }
    before += units.at(-1)!.from + units.at(-1)!.count - first
  }
  return starts.length > 1 ? starts : []
}

/** Samples of a file with its margins, as it is laid out when it is made. */
function samplesOf(spans: readonly FileSpan[], { headMs, tailMs, partRestMs }: DeliveryProfile): number {
  const { sampleRate } = spans[0]!.part
  const inSamples = (ms: number): number => msToSamples(ms, sampleRate)
  const last = spans.length - 1
  let samples = inSamples(headMs) + inSamples(tailMs)
  let endMs = 0
  spans.forEach((span, index) => {
    const { units, part: { end } } = span
    const { entryMs } = units[0]!
    samples += units.reduce((sum, unit) => sum + unit.samples, 0) - inSamples(entryMs)
      + inSamples(index > 0 ? Math.max(entryMs, endMs, partRestMs) : beginsPart(span) ? entryMs : 0)
    const reachesEnd = endsPart(span)
    if (reachesEnd) samples += end.soundSamples + (index === last ? inSamples(end.restMs) : 0)
    endMs = reachesEnd ? end.restMs : 0
  })
  return samples
}

const beginsPart = ({ units }: FileSpan): boolean => units[0]!.from === 0
const endsPart = ({ part, units }: FileSpan): boolean => units.at(-1) === part.units.at(-1)

/** Hash of all that is heard of a file. */
export function soundOf({ spans }: Pick<SheetFile, 'spans'>): string {
  return hash(spans.map(span => `${beginsPart(span) ? 'begins ' : ''}${span.units.map(unit => unit.sound).join(' ')} ${endsPart(span) ? `ends ${span.part.end.sound}` : ''}`))
}

/** Takes of a file that are not made yet. */
export function missingIn({ spans }: Pick<SheetFile, 'spans'>): number {
  return spans.reduce((sum, { units }) => units.reduce((all, unit) => all + unit.missing, sum), 0)
}

/** A part that can be divided, with what is heard of it. */
export interface HeardPart extends DividedPart {
  readonly score: CastScore
  readonly references: readonly Reference[]
}

/** A file with what is heard in it. */
export function heardFile({ key, number, name, title, parts, chapters, own, spans }: SheetFile<HeardPart>, { partRestMs }: DeliveryProfile): RunSheetFile {
  const stretches = spans.map(({ part: { score, references }, units }) => ({ score, references, from: units[0]!.from, to: units.at(-1)!.from + units.at(-1)!.count }))
  return { key, number, name, title, parts, chapters, own, sound: soundOf({ spans }), ...joinSpans(stretches, partRestMs) }
}

/** What is delivered, apart from its files. */
export interface DeliveredWork {
  readonly title: string
  readonly author: string | null
  /** BCP 47 */
  readonly language: string
  readonly details: WorkDetails
  readonly cover: WorkCover | null
}

/** Tags that are written into a file, and so decide its bytes. */
export interface FileTags extends WorkDetails {
  readonly title: string
  readonly track: number
  readonly trackCount: number
  readonly album: string
  readonly author: string
  /** ISO 639-2 */
  readonly language: string
  /** Titles of its chapters. */
  readonly chapters: readonly string[]
  /** SHA-256 (hex) of the cover. */
  readonly cover: string | null
  /** Of an article that has one of its own (YYYY-MM-DD). */
  readonly date?: string
  /** Who the production is by, where the file is by somebody else. */
  readonly albumAuthor?: string
}

/** The tags of one file of a run sheet. */
export function tagsFor(file: Pick<RunSheetFile, 'title' | 'number' | 'chapters' | 'own'>, fileCount: number, work: DeliveredWork): FileTags {
  const { author, date } = file.own
  const by = work.author ?? ''
  return {
    title: file.title, track: file.number, trackCount: fileCount,
    album: work.title, author: author ?? by, language: id3Language(work.language), ...work.details,
    chapters: file.chapters.map(({ title }) => title), cover: work.cover?.sha256 ?? null,
    ...(date === undefined ? {} : { date, year: date.slice(0, 4) }), ...(author === undefined || author === by || by === '' ? {} : { albumAuthor: by }),
  }
}

/**
 * Hash of everything that decides a file's bytes and its verdict: what is heard, tags, profile, encoder.
 * Equal fingerprints, equal bytes.
 */
export function fileFingerprint(sound: string, tags: FileTags, profile: DeliveryProfile, encoder: string): string {
  return fingerprinting(profile, encoder)(sound, tags)
}

/** The same for many files. */
export function fingerprinting(profile: DeliveryProfile, encoder: string): (sound: string, tags: FileTags) => string {
  const { name: _, namePattern: __, nameRules: ___, split: ____, announcements: _____, extras: ______, equaliser, denoiseDb, ...deciding } = profile
  const making = hash([{ ...deciding, ...(equaliser === null ? {} : { equaliser }), ...(denoiseDb === null ? {} : { denoiseDb }) }, encoder])
  return (sound, tags) => hash([sound, tags, making])
}
