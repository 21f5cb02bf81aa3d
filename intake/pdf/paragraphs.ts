import { chapterLine } from '#core/manuscript/chapter-lines'
import { isOfUse, isOrnament, type Block } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { addTo, count, most } from '#core/tally'
import { bare, TextBuilder } from '../text-builder'
import { joinerOf, wordsOf } from '../line-ends'
import { looksLikePower, raised } from '../raised'
import { footnotesOf, type Footnotes } from './footnotes'
import { isContentsLine, longestWord, type Line } from './lines'
import { furnitureOf } from './running-heads'

/** One entry of the file's outline. */
export interface OutlineEntry {
  readonly label: string
  /** From 1. */
  readonly level: number
  /** Index of the page. */
  readonly page: number
}

interface Paragraph {
  readonly lines: Line[]
  dropped?: Block['dropped']
  /** The footnote that it is. */
  readonly note?: string
}

/** The blocks of pages that say nothing about their structure: told from place and size. */
export function blocksFromLines(pages: readonly (readonly Line[])[], labelOf: (index: number) => string, outline: readonly OutlineEntry[]): Block[] {
  const furniture = furnitureOf(pages)
  const body = measure(pages.map(lines => lines.filter(line => !furniture.has(line))))
  const capped = pages.map(lines => withDropCaps(lines, body))
  const footnotes = footnotesOf(capped.map(lines => lines.filter(line => !furniture.has(line))), body.size)
  const paragraphs: Paragraph[] = []
  const notes = new Map<string, Paragraph>()
  for (const lines of capped) {
    const heads: Paragraph[] = []
    const feet: Paragraph[] = []
    let isHead = true
    for (const line of lines) {
      const kind = furniture.get(line)
      if (kind !== undefined) {
        (isHead ? heads : feet).push({ lines: [line], dropped: kind })
        continue
      }
      if (isHead) {
        paragraphs.push(...heads.splice(0))
        isHead = false
      }
      const note = footnotes.noteOf.get(line)
      const open = note === undefined ? undefined : notes.get(note)
      if (note === undefined) {
        addLine(paragraphs, line, body)
      } else if (open !== undefined) {
        // Lines of a footnote stand together, wherever the text between them goes on.
        open.lines.push(line)
      } else {
        const begun: Paragraph = { lines: [line], note }
        notes.set(note, begun)
        paragraphs.push(begun)
      }
    }
    paragraphs.push(...heads, ...feet)
  }
  const writer = writerOf(capped, footnotes)
  dropContents(paragraphs)
  const headings = headingsOf(paragraphs, body, outline)
  let page = -1
  return paragraphs.flatMap(paragraph => {
    const block = writer(paragraph, headings.get(paragraph))
    if (!isOfUse(block)) return []
    const first = paragraph.lines[0]!.page
    if (first === page || paragraph.note !== undefined) return [block]
    page = first
    return [{ ...block, page: labelOf(first) }]
  })
}

/** How much larger than the text a drop cap is set. */
const dropCapShare = 1.6

/** Lines in which the large letter that a paragraph begins with is part of its first line. */
function withDropCaps(lines: readonly Line[], body: Body): Line[] {
  const result: Line[] = []
  let cap: Line | null = null
  for (const line of lines) {
    const isBeside = cap !== null && line.left > cap.left && line.left < cap.right + body.size * 2 && line.y > cap.y - body.size && line.y < cap.y + cap.size
    if (cap !== null && isBeside && /^\p{L}/u.test(line.text)) {
      // A letter that is a word by itself, such as A, is followed by a capital or by a wider gap.
      const gap = line.left - cap.right > body.size * 0.35 && /^[AIOÀEYУВОИКСЯ]$/u.test(cap.text) ? ' ' : ''
      const by = cap.text.length + gap.length
      result.push({ ...line, text: cap.text + gap + line.text, marks: line.marks.map(mark => ({ ...mark, at: mark.at + by })), left: cap.left })
      cap = null
      continue
    }
    if (cap !== null) result.push(cap)
    cap = null
    if (/^["“„«‘]?\p{Lu}$/u.test(line.text) && line.size > body.size * dropCapShare) cap = line
    else result.push(line)
  }
  return cap === null ? result : [...result, cap]
}

/** What is usual in the running text. */
interface Body {
  readonly size: number
  readonly leading: number
  readonly left: number
  readonly right: number
  /** Whether paragraphs are set off by an indent. */
  readonly indented: boolean
}

function measure(pages: readonly (readonly Line[])[]): Body {
  const lines = pages.flat()
  const size = mode(lines.map(line => [Math.round(line.size * 10) / 10, line.text.length]))
  const text = lines.filter(line => Math.abs(line.size - size) < 0.6)
  const gaps: [number, number][] = []
  for (const page of pages) page.forEach((line, index) => {
    const gap = index === 0 ? 0 : page[index - 1]!.y - line.y
    if (gap > size * 0.8 && gap < size * 3) gaps.push([Math.round(gap * 2) / 2, 1])
  })
  const left = mode(text.map(line => [Math.round(line.left), line.text.length]))
  const right = text.map(line => line.right).sort((a, b) => a - b)[Math.floor(text.length * 0.9)] ?? 0
  const indents = text.filter(line => line.left > left + size * 0.8 && line.left < left + size * 4).length
  return { size, leading: gaps.length === 0 ? size * 1.2 : mode(gaps), left, right, indented: indents > text.length * 0.05 }
}

function mode(values: readonly (readonly [number, number])[]): number {
  const counts = new Map<number, number>()
  for (const [value, weight] of values) count(counts, value, weight)
  return most(counts)?.[0] ?? 0
}

const item = /^(?:[•◦▪‣·●○■–]|\(?(?:\d{1,3}|[a-z])[.)])\s/u
const ends = /[.!?:…]["”’»)\]]*$/u

function addLine(paragraphs: Paragraph[], line: Line, body: Body): void {
  const previous = paragraphs.findLast(paragraph => paragraph.dropped !== 'running-head' && paragraph.dropped !== 'page-number' && paragraph.note === undefined)
  if (isContentsLine(line.text)) {
    paragraphs.push({ lines: [line], dropped: 'contents' })
  } else if (previous === undefined || previous.dropped !== undefined || begins(line, previous.lines.at(-1)!, body, previous.lines.length)) {
    paragraphs.push({ lines: [line] })
  } else {
    previous.lines.push(line)
  }
}

function begins(line: Line, last: Line, body: Body, length: number): boolean {
  if (partsScenes(line) || partsScenes(last)) return true
  if (Math.abs(line.size - last.size) > Math.max(0.6, last.size * 0.08)) return true
  if (item.test(line.text) && (ends.test(last.text) || line.left <= last.left + 1)) return true
  const isShort = last.right < body.right - body.size * 3
  if (line.page !== last.page || line.y > last.y) {
    // A new page or column: what is unfinished goes on.
    if (line.size > body.size * 1.12) return true
    if (/^\p{Ll}/u.test(line.text)) return false
    if (!ends.test(last.text)) return isShort && line.left <= body.left + body.size * 0.8 && /^\p{Lu}/u.test(line.text)
    return isShort || line.left > body.left + body.size * 0.8 || !body.indented
  }
  const gap = last.y - line.y
  if (gap > body.leading * 1.35 && gap > line.size * 1.5) return true
  if (line.size > body.size * 1.12) return false
  if (body.indented && line.left > body.left + body.size * 0.8 && last.left <= body.left + body.size * 0.8) return length > 0 && !/[-‐]$/u.test(last.text)
  return isShort && ends.test(last.text) && length > 1
}

/** One sign alone in a line may be the mark of a note. */
function partsScenes({ text }: Line): boolean {
  return text.length > 2 && isOrnament(text)
}

/** A list of contents without leaders: its heading, and the lines after it that end in a page. */
function dropContents(paragraphs: readonly Paragraph[]): void {
  let heading: Paragraph | null = null
  for (const paragraph of paragraphs) {
    if (paragraph.dropped === 'running-head' || paragraph.dropped === 'page-number' || paragraph.note !== undefined) continue
    const text = paragraph.lines.map(line => line.text).join(' ')
    if (paragraph.dropped === 'contents' || (heading !== null && paragraph.dropped === undefined && text.length < 200 && /\s(?:\d{1,4}|[ivxl]{1,7})$/iu.test(text))) {
      paragraph.dropped = 'contents'
      if (heading !== null) heading.dropped = 'contents'
    } else {
      heading = matterOf(text) === 'contents' ? paragraph : null
    }
  }
}

interface Heading {
  readonly level?: number
  readonly entry?: Block['entry']
}

/** The paragraphs that are headings: those of the outline, else by how large they are set. */
function headingsOf(paragraphs: readonly Paragraph[], body: Body, outline: readonly OutlineEntry[]): ReadonlyMap<Paragraph, Heading> {
  const headings = new Map<Paragraph, Heading>()
  const levels = new Map<Paragraph, number>()
  const text = ({ lines }: Paragraph): string => bare(lines.map(line => line.text).join(' '))
  const byPage = new Map<number, Paragraph[]>()
  for (const paragraph of paragraphs) {
    if (paragraph.dropped === undefined && paragraph.note === undefined) addTo(byPage, paragraph.lines[0]!.page, paragraph)
  }
  for (const { label, level, page } of outline) {
    const wanted = bare(label)
    if (wanted === '') continue
    const found = (byPage.get(page) ?? []).find(paragraph => !levels.has(paragraph) && (text(paragraph) === wanted || (text(paragraph).endsWith(wanted) && text(paragraph).length < wanted.length + 16)))
    if (found === undefined) continue
    levels.set(found, level)
    const number = numberBefore(paragraphs, found, body, levels)
    if (number === null) {
      headings.set(found, { level, entry: { label, level } })
    } else {
      headings.set(number, { entry: { label, level } })
      headings.set(found, {})
    }
  }
  const sizes = new Map<number, Paragraph[]>()
  for (const paragraph of paragraphs) {
    const [{ size } = { size: 0 }] = paragraph.lines
    if (paragraph.dropped !== undefined || paragraph.note !== undefined || levels.has(paragraph) || size < body.size * 1.12 || paragraph.lines.length > 4 || text(paragraph).length > 200 || text(paragraph) === '') continue
    const key = Math.round(size)
    addTo(sizes, key, paragraph)
  }
  const deepest = levels.size < 2 ? 0 : Math.max(...levels.values())
  for (const [index, [, same]] of [...sizes].sort((a, b) => b[0] - a[0]).entries()) for (const paragraph of same) if (!headings.has(paragraph)) headings.set(paragraph, { level: Math.min(9, deepest + index + 1) })
  return headings
}

/** A line of its own above a heading that says which chapter it is, at the top of the page: `ONE`, `Chapter 3`. */
function numberBefore(paragraphs: readonly Paragraph[], heading: Paragraph, body: Body, headings: ReadonlyMap<Paragraph, number>): Paragraph | null {
  const at = paragraphs.indexOf(heading)
  const before = lastRead(paragraphs, at)
  const [line] = before?.lines ?? []
  if (before === undefined || line === undefined || headings.has(before) || before.lines.length > 1 || line.page !== heading.lines[0]!.page || line.size < body.size * 1.05) return null
  const earlier = lastRead(paragraphs, paragraphs.indexOf(before))
  return chapterLine(line.text) !== null && earlier?.lines[0]!.page !== line.page ? before : null
}

/** The last paragraph before one that is read. */
function lastRead(paragraphs: readonly Paragraph[], before: number): Paragraph | undefined {
  let at = before - 1
  while (at >= 0 && paragraphs[at]!.dropped !== undefined) at -= 1
  return paragraphs[at]
}

type Writer = (paragraph: Paragraph, heading: Heading | undefined) => Block

/** Makes blocks of paragraphs, knowing all words of the document and the numbers of its notes. */
function writerOf(pages: readonly (readonly Line[])[], footnotes: Footnotes): Writer {
  const lines = pages.flat()
  const words = wordsOf(lines.flatMap(({ text, isSpaced }) => isSpaced === true ? [] : [text]))
  const join = joinerOf(lines.map(({ text }) => text), words)
  /** The last number of a note that stands elsewhere, as at the end of a chapter. */
  let lastNumber = 0
  const isPower = (before: string, mark: string): boolean =>
    /^\d{1,3}$/u.test(mark) && looksLikePower(before) && (Number(mark) !== lastNumber + 1 || /\p{L}$/u.test(before))
  return ({ lines, dropped, note }, heading) => {
    let text = ''
    const marks: { at: number, text: string, note: string | null }[] = []
    for (const line of lines) {
      const shown = line.isSpaced === true ? wordsApart(line.text, words) : line.text
      text = text === '' ? shown : join(text, shown)
      const offset = text.length - shown.length
      if (note === undefined || line !== lines[0]) line.marks.forEach((mark, index) => { marks.push({ at: offset + mark.at, text: mark.text, note: footnotes.marked(line, index) }) })
    }
    const bullet = /^[•◦▪‣·●○■]\s*/u.exec(text)?.[0].length ?? 0
    const builder = new TextBuilder()
    let from = note === undefined ? bullet : footnotes.numberOf.get(lines[0]!)?.length ?? 0
    for (const mark of marks) {
      builder.add(text.slice(from, mark.at))
      from = mark.at
      if (mark.note === null && isPower(text.slice(0, mark.at), mark.text)) {
        builder.add(raised(mark.text, builder.text))
        continue
      }
      if (mark.note === null && Number(mark.text) === lastNumber + 1) lastNumber += 1
      builder.cut('footnote-mark', mark.text)
      if (mark.note !== null) builder.mark(mark.note)
    }
    builder.add(text.slice(from))
    const rest = { ...(dropped === undefined ? {} : { dropped }), ...(note === undefined ? {} : { note }) }
    if (heading !== undefined) return builder.block({ ...rest, ...heading, kind: 'heading' })
    return builder.block({ ...rest, kind: note === undefined && (bullet > 0 || item.test(text)) ? 'listItem' : 'paragraph' })
  }
}

/** Fewest letters in which more than one word is looked for. */
const leastRun = 6

/** A line of letters set apart, in which the spaces between words were lost: they are where the document's own words end, if those fill it. */
function wordsApart(text: string, words: ReadonlySet<string>): string {
  return text.replace(/[\p{L}\p{M}’']+/gu, run => run.length < leastRun || words.has(run.toLowerCase()) ? run : fewestWords(run, words) ?? run)
}

function fewestWords(run: string, words: ReadonlySet<string>): string | null {
  const lower = run.toLowerCase()
  const best: (readonly string[] | null)[] = [[]]
  for (let end = 1; end <= run.length; end += 1) {
    best[end] = null
    for (let start = Math.max(0, end - longestWord); start < end; start += 1) {
      const before = best[start]
      if (before === null || before === undefined || !words.has(lower.slice(start, end)) || end - start === 1 && !/^[aioàyéeóúwzвикосуя]$/u.test(lower.slice(start, end))) continue
      if (best[end] === null || before.length + 1 < best[end]!.length) best[end] = [...before, run.slice(start, end)]
    }
  }
  return best[run.length]?.join(' ') ?? null
}
