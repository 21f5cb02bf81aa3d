import { count } from '../tally'
import { countWords, type Block, type DropKind, type Manuscript } from './manuscript'

/** Longest pattern that is taken, in characters. */
export const maximumPatternCharacters = 500

/** Where parts begin. */
export type Split =
  /** At every heading of this level or a shallower one; 0 is the level of a document's title. */
  | { readonly by: 'heading', readonly level: number }
  /** At every block whose text begins with a match of this regular expression. */
  | { readonly by: 'pattern', readonly pattern: string }
  /** After so many empty lines or more. */
  | { readonly by: 'blank', readonly lines: number }
  /** At every rule or page break that the author set. */
  | { readonly by: 'rule' }
  /** At every slide or article. */
  | { readonly by: 'unit' }
  /** At good boundaries, every so many minutes. */
  | { readonly by: 'even', readonly minutes: number }

/** How much is taken, to try things cheaply. */
export interface Excerpt {
  /** First parts that are included. */
  readonly parts?: number
  /** First sentences of them. */
  readonly sentences?: number
  /** First and last page, as they are numbered. */
  readonly pages?: readonly [from: string, to: string]
  /** Of every part: its first sentences or words. */
  readonly each?: { readonly sentences: number } | { readonly words: number }
}

/** What a producer decides about a manuscript before it becomes a script. Blocks are named by their index. */
export interface Choices {
  readonly split: Split
  readonly footnotes: 'leave-out' | 'in-place' | 'at-end'
  /** `with-headers`: every cell after the name of its column. */
  readonly tables: 'read' | 'with-headers' | 'leave-out'
  readonly images: 'read' | 'leave-out'
  /** In a deck. */
  readonly from: 'notes' | 'slide' | 'both'
  /** In a deck: the short texts on a slide become parts of their own. */
  readonly hints: boolean
  /** First line of every article: `{title}`, `{author}`, `{date}`, `{source}`; what is missing goes with the words before it. */
  readonly opening: string
  /** Kinds of drops that are read all the same. */
  readonly restoredKinds: readonly DropKind[]
  /** Single drops that are read all the same, by `Drop.id`. */
  readonly restored: readonly string[]
  /** Blocks at which a part begins in any case. */
  readonly begins: readonly number[]
  /** Blocks at which no part begins in any case. */
  readonly joins: readonly number[]
  /** Names of parts, by their first block. */
  readonly labels: Readonly<Record<number, string>>
  /** Parts left out or not, by their first block. */
  readonly included: Readonly<Record<number, boolean>>
  readonly excerpt: Excerpt
}

/** What is chosen until somebody chooses otherwise. */
export function defaultChoices(manuscript: Manuscript): Choices {
  return {
    split: defaultSplit(manuscript), footnotes: 'leave-out', tables: 'read', images: 'leave-out', from: 'notes', hints: false, opening: '{title}',
    restoredKinds: [], restored: [], begins: [], joins: [], labels: {}, included: {}, excerpt: {},
  }
}

/** The heading levels that occur, shallowest first, with how often each does. */
export function headingLevels(blocks: readonly Block[]): { level: number, count: number }[] {
  const counts = new Map<number, number>()
  for (const { level, dropped, entry } of blocks) {
    const counted = level ?? entry?.level
    if (counted !== undefined && dropped === undefined) count(counts, counted)
  }
  return [...counts].map(([level, times]) => ({ level, count: times })).sort((a, b) => a.level - b.level)
}

/**
 * A deck and a batch have a part for each slide or article. Otherwise the shallowest heading level that occurs, but for that of the
 * document's title. Level 0 when there is no heading.
 */
export function defaultSplit(manuscript: Manuscript): Split {
  if (manuscript.units.length > 0) return { by: 'unit' }
  const levels = headingLevels(manuscript.blocks)
  const read = manuscript.blocks.filter(block => block.dropped === undefined)
  let level = 0
  for (const [index, { level: shallowest, count: times }] of levels.entries()) {
    level = shallowest
    if (index === levels.length - 1 || !isTitle(read, shallowest, times) && !repeatsTitle(manuscript, shallowest)) break
  }
  return { by: 'heading', level }
}

/** Whether all headings of a level are the document's title over again. */
function repeatsTitle({ blocks, title }: Manuscript, level: number): boolean {
  return title !== null && blocks.every(block => (block.level ?? block.entry?.level) !== level || block.dropped !== undefined || block.level !== undefined && block.text === title)
}

/** Most paragraphs of a document's title. */
const mostTitleLines = 3
/** Most words before a title: a dedication, a line of a draft, what a cover shows. More is text of its own. */
const mostWordsBefore = 120

/** Whether the headings of a level, so many of them, are the document's title: with deeper ones below them all, and next to nothing before them. */
function isTitle(blocks: readonly Block[], level: number, times: number): boolean {
  if (times > mostTitleLines) return false
  let seen = 0
  let words = 0
  for (const block of blocks) {
    if (block.level === level) seen += 1
    else if ((block.level ?? block.entry?.level ?? -1) > level) return seen === times
    else if (seen < times && block.titlePage !== true) words += countWords(block.text)
    // Text between two headings of a level makes chapters of them; lines that are set as titles stay titles.
    if (words > (seen > 0 && seen < times && level > 0 ? 0 : mostWordsBefore)) return false
  }
  return false
}

/** The heading that is the document's title, of several the first; null without one. */
export function titleHeading(blocks: readonly Block[]): string | null {
  const read = blocks.filter(block => block.dropped === undefined)
  const [first, second] = headingLevels(blocks)
  return first !== undefined && second !== undefined && isTitle(read, first.level, first.count) ? read.find(block => block.level === first.level)?.text ?? null : null
}
