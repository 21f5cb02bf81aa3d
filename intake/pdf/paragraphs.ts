import { isOfUse, isOrnament, type Block } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { addTo, count, most } from '#core/tally'
import { bare, TextBuilder } from '../text-builder'
import type { Line } from './lines'
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
}

/** The blocks of pages that say nothing about their structure: told from place and size. */
export function blocksFromLines(pages: readonly (readonly Line[])[], labels: readonly string[], outline: readonly OutlineEntry[]): Block[] {
  const furniture = furnitureOf(pages)
  const body = measure(pages.map(lines => lines.filter(line => !furniture.has(line))))
  const paragraphs: Paragraph[] = []
  for (const lines of pages) {
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
      addLine(paragraphs, line, body)
    }
    paragraphs.push(...heads, ...feet)
  }
  const joiner = hyphenRule(pages)
  dropContents(paragraphs)
  const headings = headingsOf(paragraphs, body, outline)
  let page = -1
  return paragraphs.flatMap(paragraph => {
    const block = toBlock(paragraph, headings.get(paragraph), joiner)
    if (!isOfUse(block)) return []
    const first = paragraph.lines[0]!.page
    if (first === page) return [block]
    page = first
    return [{ ...block, page: labels[first] ?? String(first + 1) }]
  })
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

/** As much of a line's end as is looked at. */
const longestWord = 80

/** A line of a list of contents: its dots lead to a page. */
const leader = { page: /(?:\d{1,6}|[ivxl]{1,9})$/iu, dots: /(?:(?:\.\s?){4}|(?:…\s?){2})$/u }

function isContentsLine(text: string): boolean {
  const at = leader.page.exec(text.slice(-longestWord))
  return at !== null && leader.dots.test(text.slice(-longestWord).slice(0, at.index).trimEnd().slice(-8))
}
const item = /^(?:[•◦▪‣·●○■–]|\(?(?:\d{1,3}|[a-z])[.)])\s/u
const ends = /[.!?:…]["”’»)\]]*$/u

function addLine(paragraphs: Paragraph[], line: Line, body: Body): void {
  const previous = paragraphs.findLast(paragraph => paragraph.dropped !== 'running-head' && paragraph.dropped !== 'page-number')
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

/** Puts two lines together: a hyphen at the end of the first is kept or goes. */
type Joiner = (before: string, after: string) => string

const longestFraction = 0.02

/**
 * Where many lines end in a hyphen they were divided by a program, and the hyphen goes before a small letter, unless the
 * document writes the word with it elsewhere. Where few do, it belongs to the word.
 */
function hyphenRule(pages: readonly (readonly Line[])[]): Joiner {
  const lines = pages.flat()
  const words = new Set(lines.flatMap(line => line.text.toLowerCase().match(/[\p{L}\p{M}]+(?:[-‐][\p{L}\p{M}]+)*/gu) ?? []))
  const divided = lines.filter(line => /\p{L}[-‐]$/u.test(line.text)).length > lines.length * longestFraction
  return (before, after) => {
    if (before.endsWith('\u00ad')) return before.slice(0, -1) + after
    const head = /[\p{L}\p{M}][-‐]$/u.test(before) ? before.slice(-longestWord, -1).match(/[\p{L}\p{M}]+(?:[-‐][\p{L}\p{M}]+)*/gu)?.at(-1) : undefined
    const [tail] = /^[\p{L}\p{M}]+/u.exec(after) ?? []
    if (head === undefined || tail === undefined) return /[-‐—–]$/u.test(before) && !/\s[-–—]$/u.test(before) ? before + after : `${before} ${after}`
    const whole = `${head}${tail}`.toLowerCase()
    const goes = /^\p{Ll}/u.test(tail) && !words.has(`${head}-${tail}`.toLowerCase()) && (words.has(whole) || divided)
    return (goes ? before.slice(0, -1) : before) + after
  }
}

/** A list of contents without leaders: its heading, and the lines after it that end in a page. */
function dropContents(paragraphs: readonly Paragraph[]): void {
  let heading: Paragraph | null = null
  for (const paragraph of paragraphs) {
    if (paragraph.dropped === 'running-head' || paragraph.dropped === 'page-number') continue
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
    if (paragraph.dropped === undefined) addTo(byPage, paragraph.lines[0]!.page, paragraph)
  }
  for (const { label, level, page } of outline) {
    const wanted = bare(label)
    if (wanted === '') continue
    const found = (byPage.get(page) ?? []).find(paragraph => !levels.has(paragraph) && (text(paragraph) === wanted || (text(paragraph).endsWith(wanted) && text(paragraph).length < wanted.length + 16)))
    if (found === undefined) continue
    levels.set(found, level)
    const number = numberBefore(paragraphs, found, body)
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
    if (paragraph.dropped !== undefined || levels.has(paragraph) || size < body.size * 1.12 || paragraph.lines.length > 4 || text(paragraph).length > 200 || text(paragraph) === '') continue
    const key = Math.round(size)
    addTo(sizes, key, paragraph)
  }
  const deepest = levels.size < 2 ? 0 : Math.max(...levels.values())
  for (const [index, [, same]] of [...sizes].sort((a, b) => b[0] - a[0]).entries()) for (const paragraph of same) if (!headings.has(paragraph)) headings.set(paragraph, { level: Math.min(9, deepest + index + 1) })
  return headings
}

/** A line of its own above a heading that says which chapter it is, at the top of the page: `ONE`, `Chapter 3`. */
function numberBefore(paragraphs: readonly Paragraph[], heading: Paragraph, body: Body): Paragraph | null {
  const at = paragraphs.indexOf(heading)
  const before = paragraphs.slice(0, at).findLast(paragraph => paragraph.dropped === undefined)
  const [line] = before?.lines ?? []
  if (before === undefined || line === undefined || before.lines.length > 1 || line.page !== heading.lines[0]!.page || line.size < body.size * 1.05) return null
  const earlier = paragraphs.slice(0, paragraphs.indexOf(before)).findLast(paragraph => paragraph.dropped === undefined)
  return line.text.split(' ').length <= 3 && earlier?.lines[0]!.page !== line.page ? before : null
}

function toBlock({ lines, dropped }: Paragraph, heading: Heading | undefined, join: Joiner): Block {
  const builder = new TextBuilder()
  let text = ''
  const marks: { at: number, text: string }[] = []
  for (const line of lines) {
    const before = text
    text = text === '' ? line.text : join(text, line.text)
    const offset = text.length - line.text.length
    if (before !== '' || offset === 0) for (const mark of line.marks) marks.push({ at: offset + mark.at, text: mark.text })
  }
  const bullet = /^[•◦▪‣·●○■]\s*/u.exec(text)?.[0].length ?? 0
  let from = bullet
  for (const mark of marks) {
    builder.add(text.slice(from, mark.at))
    builder.cut('footnote-mark', mark.text)
    from = mark.at
  }
  builder.add(text.slice(from))
  const rest = dropped === undefined ? {} : { dropped }
  if (heading !== undefined) return builder.block({ ...rest, ...heading, kind: 'heading' })
  return builder.block({ ...rest, kind: bullet > 0 || item.test(text) ? 'listItem' : 'paragraph' })
}
