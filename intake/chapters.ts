import { chapterLine, opensOrCloses, type ChapterLine } from '#core/manuscript/chapter-lines'
import { countWords, type Block } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { addTo, count } from '#core/tally'

interface Named extends ChapterLine {
  readonly index: number
}

/** Divisions that chapters stand in have a rank up to this one (`chapter-lines.ts`), bare numbers a higher one than all words. */
const chapterRank = 4
/** Fewest lines that make a row. */
const leastLines = 2
/** Share of a family's lines that must follow one another. */
const leastInOrder = 0.6
/** Words that stand between two lines of a row on average, at least; the items of a list have fewer. */
const leastWordsBetween = 40
/** Words behind a line of a list of contents, at most. */
const mostWordsOfEntry = 6

/**
 * Makes headings of the lines that number the divisions of a text, “Chapter 1”, “II.”, “Première partie”, where they recur in order and the file
 * names fewer headings of its own. A list of them at the beginning is the text's contents.
 */
export function withChapterHeadings(blocks: readonly Block[]): readonly Block[] {
  const named = blocks.flatMap((block, index): Named[] => {
    const found = block.dropped === undefined && block.note === undefined && block.cells === undefined && block.kind !== 'quotation' ? chapterLine(block.text) : null
    return found === null ? [] : [{ ...found, index }]
  })
  if (named.length < leastLines) return blocks
  const { entries, rest } = withoutContents(blocks, named)
  const families = new Map<string, Named[]>()
  for (const line of rest) addTo(families, line.family, line)
  const rows = [...families.values()].map(inOrder).filter(row => row.length >= leastLines && isApart(blocks, row))
  const [main] = rows.toSorted((a, b) => Number(a[0]!.rank > chapterRank) - Number(b[0]!.rank > chapterRank) || b.length - a.length || b[0]!.rank - a[0]!.rank)
  const headings = blocks.filter(block => (block.level ?? 0) > 0 && block.dropped === undefined).length
  // Bare numbers may as well count paragraphs: headings of the document's own are surer.
  if (main === undefined || main.length <= headings || main[0]!.rank > chapterRank && headings > 0) return blocks
  return headed(blocks, rows, main[0]!.rank, entries)
}

/** The lines of a family that follow one another; the numbers may begin anew in every part. None where most do not. */
function inOrder(lines: readonly Named[]): Named[] {
  const row: Named[] = []
  for (const line of lines) {
    const last = row.at(-1)
    if (last === undefined || line.number === 1 || line.number > last.number && line.number <= last.number + 2) row.push(line)
  }
  return row.length >= lines.length * leastInOrder ? row : []
}

/** Whether a row of bare numbers parts a text, and is not a list of short items. */
function isApart(blocks: readonly Block[], row: readonly Named[]): boolean {
  if (row[0]!.rank <= chapterRank) return true
  const between = blocks.slice(row[0]!.index, row.at(-1)!.index).reduce((sum, { text }) => sum + countWords(text), 0)
  return between >= leastWordsBetween * (row.length - 1)
}

/** Lines one behind the other, with next to nothing between, that come again later, are a list of contents. */
function withoutContents(blocks: readonly Block[], named: readonly Named[]): { readonly entries: ReadonlySet<number>, readonly rest: readonly Named[] } {
  const last = new Map(named.map(({ family, number, index }) => [`${family} ${number}`, index]))
  const entries = new Set<number>()
  named.forEach(({ family, number, index }, at) => {
    const next = named[at + 1]
    const comesAgain = last.get(`${family} ${number}`)! > index
    const words = next === undefined ? Number.POSITIVE_INFINITY : blocks.slice(index + 1, next.index).reduce((sum, { text }) => sum + countWords(text), 0)
    if (comesAgain && (words <= mostWordsOfEntry || entries.has(named[at - 1]?.index ?? -1))) entries.add(index)
  })
  return { entries, rest: named.filter(({ index }) => !entries.has(index)) }
}

function headed(blocks: readonly Block[], rows: readonly (readonly Named[])[], mainRank: number, entries: ReadonlySet<number>): Block[] {
  const lines = new Map(rows.flat().map(line => [line.index, line]))
  const [first, last] = [Math.min(...lines.keys()), Math.max(...lines.keys())]
  const times = new Map<string, number>()
  for (const { text } of blocks) count(times, text)
  /** What stands before the first chapter or behind the last: within, the same words head boxes and lists. */
  const isBeside = ({ text, dropped, level, kind }: Block, index: number): boolean => (index < first || index > last) && dropped === undefined && level === undefined && kind === 'paragraph'
    && times.get(text) === 1 && (opensOrCloses(text) || matterOf(text) !== null)
  const result: Block[] = []
  /** The larger division that begins with the block before. */
  let outer: Block | null = null
  for (const [index, block] of blocks.entries()) {
    const line = lines.get(index)
    if (entries.has(index)) {
      result.push({ ...block, dropped: 'contents' })
    } else if (line === undefined) {
      result.push(isBeside(block, index) ? heading(block, 1) : block)
    } else if (outer !== null && line.rank >= mainRank) {
      // The first chapter of a book or part begins with that, and the part of the script is called after both.
      result[index - 1] = { ...outer, entry: { label: `${outer.text} – ${block.text}`, level: 1 } }
      result.push(heading(block, 2))
    } else {
      result.push(heading(block, line.rank > mainRank ? 2 : 1))
    }
    outer = line !== undefined && line.rank < mainRank && !entries.has(index) ? result[index]! : null
  }
  return result
}

function heading({ text, ...rest }: Block, level: number): Block {
  return { ...rest, text, kind: 'heading', level }
}
