import { count, most } from '#core/tally'

/** A piece of text as the page description places it, in points from the lower left corner. */
export interface Piece {
  readonly text: string
  readonly x: number
  readonly y: number
  readonly width: number
  /** Height of its letters. */
  readonly size: number
}

/** A line of a page. */
export interface Line {
  readonly text: string
  /** Raised figures in it, which are marks of notes, with their places in the text. */
  readonly marks: readonly { readonly at: number, readonly text: string }[]
  readonly left: number
  readonly right: number
  readonly y: number
  readonly size: number
  /** Index of its page. */
  readonly page: number
}

const raisedShare = 0.8

/** The lines of a page, in the order in which the page describes them. */
export function linesOf(pieces: readonly Piece[], page: number): Line[] {
  const lines: Line[] = []
  let current: Piece[] = []
  for (const piece of pieces) {
    if (piece.text === '') continue
    const last = current.at(-1)
    if (last !== undefined && !isSameLine(current, piece)) {
      push(lines, current, page)
      current = []
    }
    if (piece.text.trim() !== '' || current.length > 0) current.push(piece)
  }
  push(lines, current, page)
  return lines
}

function isSameLine(line: readonly Piece[], piece: Piece): boolean {
  const main = line.reduce((a, b) => b.text.trim() !== '' && b.size > a.size ? b : a)
  const last = line.at(-1)!
  const size = Math.max(main.size, piece.size)
  return Math.abs(piece.y - main.y) < size * 0.6 && piece.x >= last.x - size * 0.5
}

function push(lines: Line[], pieces: readonly Piece[], page: number): void {
  const shown = pieces.filter(piece => piece.text.trim() !== '')
  if (shown.length === 0) return
  const size = mostCommonSize(shown)
  const base = shown.find(piece => piece.size === size)!
  let text = ''
  let right = shown[0]!.x
  const marks: { at: number, text: string }[] = []
  for (const piece of pieces) {
    const bare = piece.text.trim()
    if (bare === '') {
      text += ' '
      continue
    }
    const gap = piece.x - right
    if (text !== '' && !/\s$/u.test(text) && !/^\s/u.test(piece.text) && gap > size * 0.15) text += ' '
    if (piece.size < size * raisedShare && piece.y > base.y + size * 0.15 && /^(?:\d{1,3}|[*†‡])$/u.test(bare)) marks.push({ at: text.trimEnd().length, text: bare })
    else text += piece.text
    right = piece.x + piece.width
  }
  lines.push({ text: text.replace(/\s+/gu, ' ').trim(), marks, left: shown[0]!.x, right, y: base.y, size, page })
}

function mostCommonSize(pieces: readonly Piece[]): number {
  const counts = new Map<number, number>()
  for (const { size, text } of pieces) count(counts, size, text.length)
  return most(counts)![0]
}
