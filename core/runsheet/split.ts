import type { PartKind, PassageKind } from '../script/script'

/** Where a file begins. */
export type SplitBy =
  | { readonly by: 'part' }
  /** A slide with its hints. */
  | { readonly by: 'slide' }
  /** Headings of this level and above, and parts. */
  | { readonly by: 'heading', readonly level: number }
  /** Where so many lines of the source are empty, and parts. */
  | { readonly by: 'emptyLines', readonly lines: number }
  | { readonly by: 'passage' }
  | { readonly by: 'sentence' }
  /** Only where a mark says so, or a length. */
  | { readonly by: 'whole' }

/** How a script is divided into files. */
export interface Split {
  readonly where: SplitBy
  /** Files are about so long: cut at the passage that is nearest, else at the nearest sentence end; ms. */
  readonly aboutMs: number | null
  /** No file is longer than this, if its sentences allow it; ms. */
  readonly longestMs: number | null
}

export const defaultSplit: Split = { where: { by: 'part' }, aboutMs: null, longestMs: null }

/** What is cut as one: a sentence, or all that one take says. */
export interface SheetUnit {
  /** Utterances of the score of its part. */
  readonly from: number
  readonly count: number
  /** Place of its passage in the part, from 0. */
  readonly passage: number
  /** With the rest before it. */
  readonly durationMs: number
}

/** A passage as the run sheet sees it. */
export interface SheetPassage {
  readonly id: string
  readonly kind: PassageKind
  /** Of a heading. */
  readonly level: number | null
  /** Lines of the source before it that are empty. */
  readonly emptyLines: number
  /** What a file that begins here is called. */
  readonly title: string
}

/** A part as the run sheet divides it. */
export interface DividedPart {
  readonly id: string
  /** Its place in the script, from 1. */
  readonly number: number
  readonly label: string
  readonly kind: PartKind
  readonly passages: readonly SheetPassage[]
  /** In order; none where nothing is spoken. */
  readonly units: readonly SheetUnit[]
}

/** Marks that were set by hand, by the id of the passage: a file begins there, or none does. */
export type FileMarks = ReadonlyMap<string, 'begins' | 'goesOn'>

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
  readonly title: string
  readonly spans: readonly FileSpan<P>[]
  /** Without margins. */
  readonly durationMs: number
}

interface Placed<P extends DividedPart> {
  readonly part: P
  readonly unit: SheetUnit
  readonly beginsPart: boolean
  readonly beginsPassage: boolean
}

/** Divides parts into files. Nothing is left out, and nothing comes twice or in another order. */
export function splitFiles<P extends DividedPart>(parts: readonly P[], split: Split, marks: FileMarks = new Map()): SplitFile<P>[] {
  const groups = groupsOf(placedUnits(parts), split.where, marks).map(group => cut(group, split))
  // What only lengths divide has no groups: its pieces are numbered by themselves.
  const numbered = groups.length === 1 ? groups[0]!.map(piece => [piece]) : groups
  return numbered.flatMap((pieces, index) => pieces.map((piece, place): SplitFile<P> => ({
    group: index + 1, piece: pieces.length === 1 ? null : place + 1, title: titleOf(pieces[0]![0]!, split.where), spans: spansOf(piece), durationMs: lengthOf(piece),
  })))
}

function placedUnits<P extends DividedPart>(parts: readonly P[]): Placed<P>[] {
  return parts.flatMap(part => part.units.map((unit, index) => ({
    part, unit, beginsPart: index === 0, beginsPassage: index === 0 || part.units[index - 1]!.passage !== unit.passage,
  })))
}

function groupsOf<P extends DividedPart>(units: readonly Placed<P>[], where: SplitBy, marks: FileMarks): Placed<P>[][] {
  const groups: Placed<P>[][] = []
  for (const placed of units) {
    const mark = placed.beginsPassage ? marks.get(passageOf(placed).id) : undefined
    if (groups.length === 0 || mark === 'begins' || mark !== 'goesOn' && begins(placed, where)) groups.push([])
    groups.at(-1)!.push(placed)
  }
  return groups
}

const passageOf = ({ part, unit }: Placed<DividedPart>): SheetPassage => part.passages[unit.passage]!

function begins(placed: Placed<DividedPart>, where: SplitBy): boolean {
  const { beginsPart, beginsPassage, part } = placed
  const { level, emptyLines } = passageOf(placed)
  switch (where.by) {
    case 'part': return beginsPart
    case 'slide': return beginsPart && part.kind !== 'hint'
    case 'heading': return beginsPart || beginsPassage && level !== null && level <= where.level
    case 'emptyLines': return beginsPart || beginsPassage && emptyLines >= where.lines
    case 'passage': return beginsPassage
    case 'sentence': return true
    case 'whole': return false
  }
}

const lengthOf = (units: readonly Placed<DividedPart>[]): number => units.reduce((sum, { unit }) => sum + unit.durationMs, 0)

/** Cuts a group where lengths ask for it. */
function cut<P extends DividedPart>(group: readonly Placed<P>[], { aboutMs, longestMs }: Split): (readonly Placed<P>[])[] {
  const whole = lengthOf(group)
  const most = longestMs ?? Infinity
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
    ms += group[index]!.unit.durationMs
    return { index: index + 1, ms, beginsPassage }
  })
}

/** Between these shares of what is aimed at a passage is taken rather than a sentence. */
const passageFrom = 0.5
const passageTo = 1.5

function nearest(ends: readonly End[], first: number, firstMs: number, aim: number, most: number): End | null {
  const behind = ends.filter(end => end.index > first)
  const within = behind.filter(end => end.ms - firstMs <= most)
  const closest = (candidates: readonly End[]): End | null =>
    candidates.reduce<End | null>((best, end) => best === null || Math.abs(end.ms - firstMs - aim) < Math.abs(best.ms - firstMs - aim) ? end : best, null)
  const passages = within.filter(({ ms, beginsPassage }) => beginsPassage && ms - firstMs >= aim * passageFrom && ms - firstMs <= aim * passageTo)
  return closest(passages) ?? closest(within) ?? behind[0] ?? null
}

function titleOf(first: Placed<DividedPart>, where: SplitBy): string {
  const { part, beginsPart } = first
  if (beginsPart && where.by !== 'passage' && where.by !== 'sentence') return part.label
  return passageOf(first).title
}

function spansOf<P extends DividedPart>(units: readonly Placed<P>[]): FileSpan<P>[] {
  const spans: { part: P, units: SheetUnit[] }[] = []
  for (const { part, unit } of units) {
    if (spans.at(-1)?.part !== part) spans.push({ part, units: [] })
    spans.at(-1)!.units.push(unit)
  }
  return spans
}
