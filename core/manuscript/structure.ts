import type { PartKind, PassageKind } from '../script/script'
import type { Block, Manuscript } from './manuscript'

/**
 * Where parts begin: at every heading of this level or a shallower one. 0 is the level of a document's title;
 * without such headings it keeps all in one part.
 */
export interface SplitByHeading {
  readonly by: 'heading'
  readonly level: number
}

export interface ProposedPassage {
  readonly kind: PassageKind
  readonly text: string
}

export interface ProposedPart {
  readonly kind: PartKind
  readonly label: string
  readonly passages: readonly ProposedPassage[]
}

const labelWords = 6
const labelCharacters = 120

/** The heading levels that occur, shallowest first, with how often each does. */
export function headingLevels(manuscript: Manuscript): { level: number, count: number }[] {
  const counts = new Map<number, number>()
  for (const block of manuscript.blocks) {
    if (block.level !== undefined) counts.set(block.level, (counts.get(block.level) ?? 0) + 1)
  }
  return [...counts].map(([level, count]) => ({ level, count })).sort((a, b) => a.level - b.level)
}

/**
 * The shallowest level that occurs. One heading that opens the document, alone on its level and with
 * deeper ones below it, is the document's title and does not count. 0 when there is no heading.
 */
export function defaultSplit(manuscript: Manuscript): SplitByHeading {
  const levels = headingLevels(manuscript)
  const first = levels[0]
  if (first === undefined) return { by: 'heading', level: 0 }
  const titled = first.count === 1 && levels.length > 1 && manuscript.blocks[0]?.level === first.level
  return { by: 'heading', level: titled ? levels[1]!.level : first.level }
}

/**
 * Divides the blocks into parts. A heading that begins a part becomes its title; text before the first
 * such heading is a part of its own, unless it is nothing but the document's title.
 */
export function proposeParts(manuscript: Manuscript, split: SplitByHeading): ProposedPart[] {
  const groups: Block[][] = [[]]
  for (const block of manuscript.blocks) {
    const begins = block.level !== undefined && block.level <= split.level
    if (begins && groups.at(-1)!.length > 0) groups.push([])
    groups.at(-1)!.push(block)
  }
  const filled = groups.filter(group => group.length > 0)
  const parts = filled.map((group, index) => toPart(group, split.level, index === 0 ? manuscript.title : null))
  return isBareDocumentTitle(filled, manuscript) ? parts.slice(1) : parts
}

function toPart(group: readonly Block[], level: number, documentTitle: string | null): ProposedPart {
  const [first] = group
  const titled = first !== undefined && first.level !== undefined && (first.level <= level || documentTitle === first.text)
  return {
    kind: 'chapter',
    label: shorten(titled ? first.text : documentTitle ?? firstWords(first?.text ?? '')),
    passages: group.map((block, index) => ({ kind: titled && index === 0 ? 'title' : block.kind, text: block.text })),
  }
}

function isBareDocumentTitle(groups: readonly Block[][], manuscript: Manuscript): boolean {
  const first = groups[0]
  return groups.length > 1 && first?.length === 1 && first[0]!.level !== undefined && first[0]!.text === manuscript.title
}

function firstWords(text: string): string {
  const words = text.split(/\s+/u)
  return words.slice(0, labelWords).join(' ').replace(/[\s,;:.–—-]+$/u, '') + (words.length > labelWords ? ' …' : '')
}

function shorten(label: string): string {
  return label.length <= labelCharacters ? label : label.slice(0, labelCharacters - 2).trimEnd() + ' …'
}
