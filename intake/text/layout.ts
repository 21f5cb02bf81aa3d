// Plain text says nothing about its paragraphs but where its lines break. In wrapped text a line ends where the next word had no room;
// a line that ends earlier was ended on purpose.

import { chapterLine, opensOrCloses } from '#core/manuscript/chapter-lines'
import { count } from '#core/tally'

interface Line {
  readonly text: string
  /** Columns of white space before it. */
  readonly indent: number
  /** Length to its end, indent included. */
  readonly width: number
}

/** What is usual in a text. */
export interface Layout {
  /** Columns at which lines are wrapped; null where every line is a paragraph. */
  readonly wrapAt: number | null
  readonly indent: number
}

export interface LaidOut {
  readonly kind: 'paragraph' | 'listItem'
  readonly lines: readonly string[]
}

/** Lines longer or shorter than this were not broken for a page. */
const [narrowestPage, widestPage] = [36, 110]
/** Share of line breaks that a text of wrapped lines has at its margin. */
const leastWrapped = 0.4
/** A line that leaves a quarter of the width empty was ended on purpose, if the next begins like a sentence. */
const short = 0.75

/** Where this share of lines begins like a sentence, each is one: a verse, a paragraph. Of wrapped lines in German, which has most capitals, half do. */
const mostOpening = 0.85
/** A verse among wrapped text: some lines that all begin like sentences, and none reaches the margin. */
const verse = { lines: 3, width: 0.9 }

const bullet = /^[-•◦▪‣●○■*·]\s+(?=\S)/u
const numbered = /^\(?(?:\d{1,3}|\p{L}|[ivx]{1,4})[.)]\s+\S/u
const dialogue = /^(?:[“„«"‘]|[–—]\s)/u
const ended = /[.!?…:;]["”’»)\]]*$|[。！？]$/u
const opens = /^["“„«‘'(\[¿¡–—-]*\s*[\p{Lu}\p{Lo}\p{N}]/u
/** Tabs stand for four columns. */
function lineOf(raw: string): Line {
  const spaced = raw.replace(/\t/gu, '    ').trimEnd()
  const text = spaced.trimStart()
  return { text, indent: spaced.length - text.length, width: spaced.length }
}

/** Measures a text: all its lines, the empty ones among them. */
export function layoutOf(raw: readonly string[]): Layout {
  const lines = raw.map(lineOf)
  const full = lines.filter(line => line.text !== '')
  const widths = full.map(line => line.width).sort((a, b) => a - b)
  const width = widths[Math.floor((widths.length - 1) * 0.95)] ?? 0
  const indents = new Map<number, number>()
  for (const { indent } of full) count(indents, indent)
  const indent = [...indents].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]?.[0] ?? 0
  let [breaks, atMargin, opening] = [0, 0, 0]
  lines.forEach((line, index) => {
    const next = lines[index + 1]
    if (line.text === '' || next === undefined || next.text === '') return
    breaks += 1
    if (opens.test(next.text)) opening += 1
    if (!hasRoom(line, next, width * short)) atMargin += 1
  })
  const isWrapped = breaks === 0 || atMargin >= breaks * leastWrapped && opening < breaks * mostOpening
  return { wrapAt: isWrapped && width >= narrowestPage && width <= widestPage ? width : null, indent }
}

/** Whether the first word of the next line would have stood on this one. */
function hasRoom(line: Line, next: Line, width: number): boolean {
  return line.width + 1 + (/^\S+/u.exec(next.text)?.[0].length ?? 0) <= width
}

/** The paragraphs and list items of lines that no empty line parts. */
export function paragraphsOf(raw: readonly string[], usual: Layout): LaidOut[] {
  const lines = raw.map(lineOf)
  const { wrapAt } = usual
  const isVerse = wrapAt !== null && lines.length >= verse.lines && lines.every(({ text, width }) => opens.test(text) && width < wrapAt * verse.width)
  const layout = isVerse ? { ...usual, wrapAt: null } : usual
  const result: { kind: LaidOut['kind'], lines: string[], indents: number[] }[] = []
  let last: Line | null = null
  for (const line of lines) {
    const open = result.at(-1)
    const isItem = open?.kind === 'listItem'
    const item = beginsItem(line, last, isItem, layout)
    if (last === null || open === undefined || item || beginsParagraph(line, last, open, layout)) {
      result.push({ kind: item ? 'listItem' : 'paragraph', lines: [item ? line.text.replace(bullet, '') : line.text], indents: [line.indent] })
    } else {
      open.lines.push(line.text)
      open.indents.push(line.indent)
    }
    last = line
  }
  return result
}

/** A number at the beginning of a line can be the end of a sentence: it begins an item where the line before is done with. */
function beginsItem(line: Line, last: Line | null, inList: boolean, layout: Layout): boolean {
  if (bullet.test(line.text)) return true
  return numbered.test(line.text) && (last === null || inList || ended.test(last.text) || isDone(last, line, layout))
}

function beginsParagraph(line: Line, last: Line, open: { readonly kind: LaidOut['kind'], readonly indents: readonly number[] }, layout: Layout): boolean {
  if (standsAlone(line.text) || standsAlone(last.text)) return true
  if (layout.wrapAt === null) return !/^\p{Ll}/u.test(line.text) || ended.test(last.text)
  if (open.kind === 'listItem') return line.indent === layout.indent && isDone(last, line, layout)
  // An indent begins a paragraph; a block that was indented ends where the lines go back.
  if (line.indent > last.indent + 1) return true
  if (line.indent + 1 < last.indent && open.indents.length > 1) return true
  if (dialogue.test(line.text) && ended.test(last.text) && hasRoom(last, line, layout.wrapAt)) return true
  return isDone(last, line, layout)
}

/** A line that names a chapter in words is a paragraph by itself. */
function standsAlone(text: string): boolean {
  return opensOrCloses(text) || !/^[\dIVXLC]+[.):]?(?:\s|$)/u.test(text) && chapterLine(text) !== null
}

/** Whether a line was ended on purpose, and the next begins something. */
function isDone(last: Line, line: Line, { wrapAt }: Layout): boolean {
  return wrapAt === null || hasRoom(last, line, wrapAt * short) && opens.test(line.text)
}
