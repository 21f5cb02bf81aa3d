import type { Block, Cut, DropKind, NoteMark } from '#core/manuscript/manuscript'
import { lowered, raised, withFraction } from './raised'

/** Control characters and halves of characters, which no text means, and no database and no voice takes. */
const controls = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|\p{Cs}/gu

export function withoutControls(text: string): string {
  return text.replace(controls, '')
}

/** One line of white space for any run of it, no control characters. */
export function collapse(text: string): string {
  return withoutControls(text).replace(/\s+/gu, ' ').trim()
}

/** The letters and figures of a text alone, for comparing what is set differently. */
export function bare(text: string): string {
  return text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '')
}

/** Brackets by those that close them. */
const around: ReadonlyMap<string, string> = new Map([[')', '('], ['>', '<'], [']', '['], ['}', '{'], ['»', '«']])

/** A place in the text being built that can be gone back to. */
export interface Point {
  readonly length: number
  readonly spaced: boolean
  readonly cuts: number
}

/** The text of a block as it is put together: white space collapsed, with what is cut, marked and emphasised in it. */
export class TextBuilder {
  text = ''
  readonly cuts: Cut[] = []
  readonly marks: NoteMark[] = []
  readonly #emphasis: [start: number, end: number][] = []
  #emphasisFrom: number | null = null
  #emphasisDepth = 0
  #space = false
  /** Where something was taken away, until something follows. */
  #gap: number | null = null
  /** Whether the last cut ended in white space. */
  #cutSpaced = false

  get isEmpty(): boolean {
    return this.text === '' && this.cuts.length === 0
  }

  /** Something was taken away here: what stood around it alone goes as well, as brackets do, or one of two commas. */
  leaveGap(): void {
    this.#gap = this.text.length
  }

  #closeGap(piece: string): string {
    const isHere = this.#gap === this.text.length
    if (!isHere || piece.trim() === '') return piece
    this.#gap = null
    const [behind] = /^\s*[)>\]}»,;:.!?]/u.exec(piece) ?? []
    if (behind === undefined) return piece
    const sign = behind.trim()
    const before = this.text.trimEnd()
    if (around.get(sign) === before.at(-1)) {
      this.#shorten(before.slice(0, -1).trimEnd().length)
      this.space()
      // What stood around it may stand before a sign itself.
      this.leaveGap()
      return this.#closeGap(piece.slice(behind.length))
    }
    if (!/[,;:.!?]/u.test(sign)) return piece
    this.#space = false
    return before === '' || /[,;:]$/u.test(before) ? piece.slice(behind.length) : piece.trimStart()
  }

  /** Takes the end of the text away, and moves what stood there. */
  #shorten(length: number): void {
    this.text = this.text.slice(0, length)
    this.cuts.forEach((cut, index) => { if (cut.at > length) this.cuts[index] = { ...cut, at: length } })
  }

  add(given: string): void {
    const clean = withoutControls(this.#gap === null ? given : this.#closeGap(given))
    if (clean === '') return
    const words = clean.replace(/\s+/gu, ' ')
    const bare = words.trim()
    if (words.startsWith(' ')) this.space()
    if (bare === '') return
    if (this.#space) this.text += ' '
    this.#space = false
    this.text += bare
    if (words.endsWith(' ')) this.space()
  }

  /** A text that is set above the line, such as a power or the letters of an ordinal. */
  raise(piece: string): void {
    const text = raised(piece, this.text)
    this.add(text)
  }

  /** A text that is set below the line; behind a raised number and a stroke it makes a fraction of them. */
  lower(piece: string): void {
    const fraction = withFraction(this.text, piece)
    if (fraction === null) return this.add(lowered(piece))
    this.#space = false
    this.text = fraction
  }

  /** A text above the line (over 0), below it (under 0), or on it. */
  addAt(height: number, piece: string): void {
    if (height > 0) this.raise(piece)
    else if (height < 0) this.lower(piece)
    else this.add(piece)
  }

  /** White space, unless there is some already or nothing before it. */
  space(): void {
    if (this.text !== '') this.#space = true
  }

  cut(kind: DropKind, text: string): void {
    const shown = collapse(text)
    if (shown === '') return
    const last = this.cuts.at(-1)
    // Pieces of one cut come one by one.
    if (last !== undefined && last.kind === kind && last.at === this.text.length && (kind === 'hidden' || kind === 'deleted')) {
      this.cuts[this.cuts.length - 1] = { ...last, text: last.text + (/^\s/u.test(text) || this.#cutSpaced ? ' ' : '') + shown }
    } else {
      this.cuts.push({ kind, at: this.text.length, text: shown })
    }
    this.#cutSpaced = /\s$/u.test(text)
  }

  mark(note: string): void {
    this.marks.push({ at: this.text.length, note })
  }

  openEmphasis(): void {
    if (this.#emphasisDepth === 0) this.#emphasisFrom = this.text.length + (this.#space ? 1 : 0)
    this.#emphasisDepth += 1
  }

  closeEmphasis(): void {
    this.#emphasisDepth = Math.max(0, this.#emphasisDepth - 1)
    if (this.#emphasisDepth > 0 || this.#emphasisFrom === null) return
    const last = this.#emphasis.at(-1)
    const start = Math.min(this.#emphasisFrom, this.text.length)
    if (last !== undefined && last[1] === start) last[1] = this.text.length
    else if (this.text.length > start) this.#emphasis.push([start, this.text.length])
    this.#emphasisFrom = null
  }

  point(): Point {
    return { length: this.text.length, spaced: this.#space, cuts: this.cuts.length }
  }

  /** What was added since a point. */
  since({ length }: Point): string {
    return this.text.slice(length).trim()
  }

  /** Takes away what was added since a point, cuts included. */
  rewind({ length, spaced, cuts }: Point): void {
    this.text = this.text.slice(0, length)
    this.cuts.length = cuts
    this.#space = spaced
    while (this.#emphasis.length > 0 && this.#emphasis.at(-1)![1] > length) this.#emphasis.pop()
  }

  /** Puts another text behind this one. */
  append(other: TextBuilder, separator: string): void {
    if (other.isEmpty) return
    if (this.text !== '' && other.text !== '') this.text += separator
    this.#space = false
    const at = this.text.length
    this.text += other.text
    for (const cut of other.cuts) this.cuts.push({ ...cut, at: at + cut.at })
    for (const { note, at: place } of other.marks) this.marks.push({ note, at: at + place })
    for (const [start, end] of other.spans()) this.#emphasis.push([at + start, at + end])
  }

  spans(): readonly (readonly [start: number, end: number])[] {
    while (this.#emphasisDepth > 0) this.closeEmphasis()
    return this.#emphasis.filter(([start, end]) => end > start)
  }

  /** The block with this text, the rest of it as given. */
  block(rest: Omit<Block, 'text' | 'cuts' | 'emphasis' | 'marks'>): Block {
    const emphasis = this.spans()
    // Emphasis on all of a block sets nothing off.
    const partial = emphasis.filter(([start, end]) => start > 0 || end < this.text.length)
    return {
      ...rest, text: this.text,
      ...(this.cuts.length === 0 ? {} : { cuts: this.cuts }),
      ...(partial.length === 0 ? {} : { emphasis: partial }),
      ...(this.marks.length === 0 ? {} : { marks: this.marks }),
    }
  }
}

/** A heading with the number that a program gives it, which is not read unless it is all there is. */
export function headingWithNumber(number: string | null, heading: TextBuilder): TextBuilder {
  if (number === null) return heading
  const builder = new TextBuilder()
  if (heading.text === '') builder.add(number)
  else builder.cut('heading-number', number)
  builder.append(heading, ' ')
  return builder
}

/** A list item with its number before it. */
export function numbered(number: string, item: TextBuilder): TextBuilder {
  const builder = new TextBuilder()
  builder.add(number)
  builder.append(item, ' ')
  return builder
}

/** What parts two paragraphs of one table cell. */
export function inCell({ text }: TextBuilder): string {
  return /[.!?,;:…]["”’»)]?$/u.test(text) ? ' ' : ', '
}

/** The rows of one table as they end. The first may name the columns of the others. */
export class TableRows {
  #columns: readonly string[] | null = null
  #count = 0

  /**
   * The block of a row. `outer`: the cell that this table stands in, which takes the row in; then there is no block.
   */
  end(cells: readonly TextBuilder[], isHeader: boolean, outer: TextBuilder | undefined): Block | null {
    const names = isHeader && this.#count === 0
    const block = outer === undefined ? rowBlock(cells, names ? null : this.#columns) : null
    if (outer !== undefined) for (const cell of cells) outer.append(cell, ', ')
    if (names) this.#columns = cells.map(cell => cell.text)
    this.#count += 1
    return block
  }
}

/** The row of a table: its cells in one text, and each by itself. */
export function rowBlock(cells: readonly TextBuilder[], columns: readonly string[] | null, rest: Omit<Block, 'text' | 'kind' | 'cells' | 'columns'> = {}): Block {
  const row = new TextBuilder()
  for (const cell of cells) row.append(cell, ', ')
  return row.block({ ...rest, kind: 'tableRow', cells: cells.map(cell => cell.text), ...(columns === null ? {} : { columns }) })
}
