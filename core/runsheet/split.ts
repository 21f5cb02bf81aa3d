import { samplesToMs } from '../audio/pcm'
import type { SpeakerNames, WorkNames } from '../delivery/naming'
import type { FileSplitBy } from '../delivery/file-split'
import type { AnnouncementMark, PartAbout, PartKind, PassageKind } from '../script/script'

/** What is cut as one: a sentence, or all that one take says. */
export interface SheetUnit {
  /** Utterances of the score of its part. */
  readonly from: number
  readonly count: number
  /** Takes that it is heard in, and how many of them are not made yet. */
  readonly takes: number
  readonly missing: number
  /** Place of its passage in the part, from 0. */
  readonly passage: number
  /** Who begins it, as in its script; null is the narrator. */
  readonly role: string | null
  /** The rest that it begins with. A file that begins within a part begins without it; where a part follows another in a file it can be longer. */
  readonly entryMs: number
  /** With that rest, at the rate of its part. */
  readonly samples: number
  /** Hash of all that is heard of it. */
  readonly sound: string
}

/** What is heard at the end of a part, behind its last word. */
export interface PartEnd {
  readonly soundSamples: number
  readonly restMs: number
  readonly sound: string
}

/** A passage as the run sheet sees it. */
export interface SheetPassage {
  readonly id: string
  readonly kind: PassageKind
  /** Of a heading. */
  readonly level: number | null
  /** What a file that begins here is called. */
  readonly title: string
  /** It is not in the script: it announces what is. */
  readonly announcement?: AnnouncementMark
}

/** A part as the run sheet divides it. */
export interface DividedPart {
  readonly id: string
  /** Its place in the script, from 1. */
  readonly number: number
  readonly label: string
  readonly kind: PartKind
  readonly about?: PartAbout | null
  readonly passages: readonly SheetPassage[]
  /** In order; none where nothing is spoken. */
  readonly units: readonly SheetUnit[]
  readonly end: PartEnd
  /** Hz */
  readonly sampleRate: number
}

export type FileMark = 'begins' | 'goesOn'

/** What is known of a script besides its parts; of places in it, by the id of the passage. */
export interface SheetPlaces {
  /** For names; a file that holds several parts and is the only one is called as the production is. */
  readonly work?: WorkNames
  /** Roles besides the narrator, by what scripts call them. */
  readonly speakers?: ReadonlyMap<string, SpeakerNames>
  /** Of the picture that each file has, if its format knows covers. */
  readonly coverBytes?: number
  /** Marks that were set by hand: a file begins there, or none does. */
  readonly marks?: ReadonlyMap<string, FileMark>
  /** Lines of the source before it that are empty, from 2 on. */
  readonly emptyLines?: ReadonlyMap<string, number>
}

/** A stretch of a part in a file. */
export interface FileSpan<P extends DividedPart = DividedPart> {
  readonly part: P
  readonly units: readonly SheetUnit[]
}

/** A file of a divided script. */
export interface SplitFile<P extends DividedPart = DividedPart> {
  /** Place among what the rule divides, from 1. */
  readonly group: number
  /** Place among the files that a length made of the group, from 1; null where it is one file. */
  readonly piece: number | null
  /** What it begins with: a heading, or the label of its part. */
  readonly title: string
  readonly spans: readonly FileSpan<P>[]
  /** What it announces, where it holds nothing else. */
  readonly announces: AnnouncementMark['of'] | null
  /** It begins with a passage that could be in the file before: not within one, and not beside an announcement with a file of its own. */
  readonly canGoOn: boolean
  /** Without margins, and not less than it is. */
  readonly durationMs: number
}

interface Placed<P extends DividedPart> {
  readonly part: P
  readonly unit: SheetUnit
  /** The first of its part, apart from announcements with files of their own. */
  readonly beginsPart: boolean
  readonly beginsPassage: boolean
  /** It or what is before it announces something in a file of its own. */
  readonly isApart: boolean
  /** It goes with the announcement before it, or is one that goes with what is before it. */
  readonly goesWith: boolean
  /** With what is between parts before it, and with the end of its part behind it. */
  readonly ms: number
}

/** What counts for lengths: how long files are about, and at most, without margins, `Infinity` for any; and the silence between parts, at least; ms. */
export interface SplitLengths {
  readonly aboutMs: number | null
  readonly longestMs: number
  readonly partRestMs: number
}

/** Divides parts into files. Nothing is left out, and nothing comes twice or in another order. */
export function splitFiles<P extends DividedPart>(parts: readonly P[], where: FileSplitBy, lengths: SplitLengths, places: SheetPlaces = {}): SplitFile<P>[] {
  const groups = groupsOf(placedUnits(parts, lengths.partRestMs), where, places).map(group => joined(cut(group, lengths), lengths, places))
  // Where lengths and marks alone divide there are no groups: all files are numbered in one row.
  const numbered = where.by === 'whole' || groups.length === 1 ? groups.flat().map(piece => [piece]) : groups
  return numbered.flatMap((pieces, index) => pieces.map((piece, place): SplitFile<P> => ({
    group: index + 1, piece: pieces.length === 1 ? null : place + 1, title: titleOf(piece[0]!, where), spans: spansOf(piece), announces: announcedBy(piece[0]!), canGoOn: piece[0]!.beginsPassage && !piece[0]!.isApart, durationMs: lengthOf(piece),
  })))
}

/** What a file announces that holds nothing else. */
function announcedBy({ part, unit }: Placed<DividedPart>): AnnouncementMark['of'] | null {
  const announcement = announcementOf(part, unit)
  return announcement?.isOwnFile === true ? announcement.of : null
}

function placedUnits<P extends DividedPart>(parts: readonly P[], partRestMs: number): Placed<P>[] {
  let restMs = 0
  return parts.flatMap(part => {
    const { units, end, sampleRate } = part
    const last = units.length - 1
    const before = restMs
    if (last >= 0) restMs = end.restMs
    let begun = false
    return units.map((unit, index) => {
      const entryMs = index === 0 ? Math.max(unit.entryMs, before, partRestMs) - unit.entryMs : 0
      const endMs = index === last ? samplesToMs(end.soundSamples, sampleRate) + end.restMs : 0
      const [own, previous] = [announcementOf(part, unit), index === 0 ? null : announcementOf(part, units[index - 1]!)]
      const isAlone = own?.isOwnFile === true
      const beginsPart = !begun && !isAlone
      begun ||= !isAlone
      const beginsPassage = index === 0 || units[index - 1]!.passage !== unit.passage
      const isApart = beginsPassage && (isAlone || previous?.isOwnFile === true)
      const goesWith = beginsPassage && !isApart && index > 0 && (own?.of === 'closing' || previous !== null && previous.of !== 'closing')
      return { part, unit, beginsPart, beginsPassage, isApart, goesWith, ms: samplesToMs(unit.samples, sampleRate) + entryMs + endMs }
    })
  })
}

function groupsOf<P extends DividedPart>(units: readonly Placed<P>[], where: FileSplitBy, places: SheetPlaces): Placed<P>[][] {
  const groups: Placed<P>[][] = []
  for (const placed of units) {
    const mark = markOf(placed, places)
    if (groups.length === 0 || placed.isApart || mark === 'begins' || mark !== 'goesOn' && begins(placed, where, places)) groups.push([])
    groups.at(-1)!.push(placed)
  }
  return groups
}

/** The mark of what is announced is that of its announcement. */
function markOf(placed: Placed<DividedPart>, { marks }: SheetPlaces): FileMark | undefined {
  if (marks === undefined || !placed.beginsPassage || placed.isApart || placed.goesWith) return undefined
  const passage = writtenFrom(placed.part, placed.unit.passage)
  return passage === undefined ? undefined : marks.get(passage.id)
}

/** The first passage of the script from a place of a part on: what is said there, or announced. */
export function writtenFrom({ passages }: DividedPart, place: number): SheetPassage | undefined {
  return passages.slice(place).find(({ announcement }) => announcement === undefined)
}

const announcementOf = ({ passages }: DividedPart, { passage }: SheetUnit): AnnouncementMark | null => passages[passage]!.announcement ?? null

const passageOf = ({ part, unit }: Placed<DividedPart>): SheetPassage => part.passages[unit.passage]!

function begins(placed: Placed<DividedPart>, where: FileSplitBy, places: SheetPlaces): boolean {
  const { beginsPart, beginsPassage, goesWith, part } = placed
  const { id, level } = passageOf(placed)
  if (goesWith) return where.by === 'sentence'
  switch (where.by) {
    case 'part': return beginsPart
    case 'slide': return beginsPart && part.kind !== 'hint'
    case 'heading': return beginsPart || beginsPassage && level !== null && level <= where.level
    case 'emptyLines': return beginsPart || beginsPassage && (places.emptyLines?.get(id) ?? 0) >= where.lines
    case 'passage': return beginsPassage
    case 'sentence': return true
    case 'whole': return false
  }
}

const lengthOf = (units: readonly Placed<DividedPart>[]): number => units.reduce((sum, { ms }) => sum + ms, 0)

/** Cuts a group where lengths ask for it. */
function cut<P extends DividedPart>(group: readonly Placed<P>[], { aboutMs, longestMs: most }: SplitLengths): (readonly Placed<P>[])[] {
  const whole = lengthOf(group)
  const aim = aboutMs ?? (whole > most ? whole / Math.ceil(whole / most) : Infinity)
  if (whole <= Math.min(most, aboutMs === null ? Infinity : aim * nearlyWhole)) return [group]
  const ends = endsOf(group)
  const pieces: (readonly Placed<P>[])[] = []
  let [first, firstMs] = [0, 0]
  while (first < group.length) {
    const left = whole - firstMs
    if (left <= most && left <= aim * nearlyWhole) break
    const end = nearest(ends, first, firstMs, Math.min(aim, most), most)
    if (end === null) break
    pieces.push(group.slice(first, end.index))
    ;[first, firstMs] = [end.index, end.ms]
  }
  if (first < group.length) pieces.push(group.slice(first))
  return pieces
}

/** Joins what lengths have cut where a mark says that the file goes on, and it does not become too long. */
function joined<P extends DividedPart>(pieces: readonly (readonly Placed<P>[])[], { longestMs }: SplitLengths, places: SheetPlaces): (readonly Placed<P>[])[] {
  const result: (readonly Placed<P>[])[] = []
  for (const piece of pieces) {
    const [first] = piece as [Placed<P>]
    const before = result.at(-1)
    const goesOn = before !== undefined && markOf(first, places) === 'goesOn' && lengthOf(before) + lengthOf(piece) <= longestMs
    if (goesOn) result[result.length - 1] = [...before, ...piece]
    else result.push(piece)
  }
  return result
}

/** What is left over is not cut off when it would be shorter than half of what files are to be. */
const nearlyWhole = 1.5

/** A place where a piece may end. */
interface End {
  /** Of the first unit behind it. */
  readonly index: number
  readonly ms: number
  readonly beginsPassage: boolean
}

function endsOf(group: readonly Placed<DividedPart>[]): End[] {
  let ms = 0
  return group.slice(1).map(({ beginsPassage }, index) => {
    ms += group[index]!.ms
    return { index: index + 1, ms, beginsPassage }
  })
}

/** Between these shares of what is aimed at a passage is taken rather than a sentence. */
const passageFrom = 0.5
const passageTo = 1.5

/** Where a file that begins with a unit ends; at the very next place where even that is too long. */
function nearest(ends: readonly End[], first: number, firstMs: number, aim: number, most: number): End | null {
  const farthest = firstMs + Math.min(most, aim * passageTo)
  let passage: End | null = null
  let sentence: End | null = null
  const closer = (end: End, than: End | null): End => than === null || Math.abs(end.ms - firstMs - aim) < Math.abs(than.ms - firstMs - aim) ? end : than
  for (let at = first; at < ends.length && ends[at]!.ms <= farthest; at += 1) {
    const end = ends[at]!
    sentence = closer(end, sentence)
    if (end.beginsPassage && end.ms >= firstMs + aim * passageFrom) passage = closer(end, passage)
  }
  return passage ?? sentence ?? ends[first] ?? null
}

/** Divisions in which files are called by the words that they begin with, also at the beginning of a part, or only within one. */
const byWords: ReadonlySet<FileSplitBy['by']> = new Set(['passage', 'sentence'])
const byWordsWithin: ReadonlySet<FileSplitBy['by']> = new Set([...byWords, 'emptyLines'])

function titleOf(first: Placed<DividedPart>, { by }: FileSplitBy): string {
  const { part, beginsPart } = first
  const { kind, title, announcement } = passageOf(first)
  if (announcement?.isOwnFile === true) return title
  if (announcement !== undefined) return part.label
  const isHeading = kind === 'title' || kind === 'heading'
  const isOwn = beginsPart ? !isHeading && byWords.has(by) : isHeading || byWordsWithin.has(by)
  return isOwn ? title : part.label
}

function spansOf<P extends DividedPart>(units: readonly Placed<P>[]): FileSpan<P>[] {
  const spans: { part: P, units: SheetUnit[] }[] = []
  for (const { part, unit } of units) {
    if (spans.at(-1)?.part !== part) spans.push({ part, units: [] })
    spans.at(-1)!.units.push(unit)
  }
  return spans
}
