import { count, most } from '#core/tally'
import { lowered, raised } from '../raised'

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
  /** Raised figures and signs in it, which are marks of notes or powers, with their places in the text, which is without them. */
  readonly marks: readonly { readonly at: number, readonly text: string }[]
  readonly left: number
  readonly right: number
  readonly y: number
  readonly size: number
  /** Index of its page. */
  readonly page: number
  /** Its letters were set apart; where a word ends may be lost. */
  readonly isSpaced?: boolean
}

const raisedShare = 0.8
/** Heights above and below the line, in shares of the letters' size. */
const [leastRaise, leastDrop] = [0.15, 0.06]
const raisedMark = /^(?:\d{1,3}(?:\s?[,;–-]\s?\d{1,3}){0,4}|[*†‡§¶]{1,3})$/u

/** What a text ends with when a sign before was raised, too: 10⁻ and then 3. */
const raisedEnd = /[⁰¹²³⁴-⁹⁺⁻ⁿ]$/u

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
  const spacedPieces = shown.filter(piece => isSpaced(piece.text)).length
  let text = ''
  let right = shown[0]!.x
  const marks: { at: number, text: string }[] = []
  for (const piece of pieces) {
    const bare = piece.text.trim()
    if (bare === '') {
      text += ' '
      continue
    }
    const isSmall = piece.size < size * raisedShare
    const isRaised = isSmall && piece.y > base.y + size * leastRaise
    const isLowered = isSmall && piece.y < base.y - size * leastDrop
    const gap = piece.x - right
    if (text !== '' && !/\s$/u.test(text) && !/^\s/u.test(piece.text) && gap > size * (isRaised || isLowered ? 0.25 : 0.15)) text += ' '
    if (isRaised && raisedMark.test(bare) && !raisedEnd.test(text)) marks.push({ at: text.trimEnd().length, text: bare })
    else if (isRaised) text += raised(piece.text, text)
    else if (isLowered && /[\p{L})\]]$/u.test(text)) text += lowered(piece.text)
    else if (isSpaced(piece.text) && (spacedPieces > 1 || bare.length >= leastSpaced)) text += piece.text.replace(/(?<=\S) (?=\S)/gu, '')
    else text += piece.text
    right = piece.x + piece.width
  }
  const line = tidied(text, marks)
  lines.push({ ...line, left: shown[0]!.x, right, y: base.y, size, page, ...(spacedPieces > 0 ? { isSpaced: true } : {}) })
}

/** Three letters apart may be a row of symbols; four are a word. */
const leastSpaced = 7
const spacedLetters = /^\s*(?:[\p{L}\p{M}\p{N}’'.,:;!?-] )+[\p{L}\p{M}\p{N}’'.,:;!?-]\s*$/u

/** Whether the letters of a piece were set apart: each has a space behind it. */
export function isSpaced(text: string): boolean {
  return text.length > 4 && spacedLetters.test(text) && /\p{L}/u.test(text)
}

/** The text without white space at its ends and without double spaces, the marks moved with it. */
function tidied(text: string, marks: readonly { readonly at: number, readonly text: string }[]): Pick<Line, 'text' | 'marks'> {
  const tidy = (part: string): string => part.replace(/\s+/gu, ' ').trimStart()
  const whole = tidy(text).trimEnd()
  return { text: whole, marks: marks.map(mark => ({ ...mark, at: Math.min(whole.length, tidy(text.slice(0, mark.at)).length) })) }
}

function mostCommonSize(pieces: readonly Piece[]): number {
  const counts = new Map<number, number>()
  for (const { size, text } of pieces) count(counts, size, text.length)
  return most(counts)![0]
}

/** As much of a line's end as is looked at. */
export const longestWord = 80

/** A line of a list of contents: its dots lead to a page. */
const leader = { page: /(?:\d{1,6}|[ivxl]{1,9})$/iu, dots: /(?:(?:\.\s?){4}|(?:…\s?){2})$/u }

/** Whether a line is an entry of a list of contents. */
export function isContentsLine(text: string): boolean {
  const at = leader.page.exec(text.slice(-longestWord))
  return at !== null && leader.dots.test(text.slice(-longestWord).slice(0, at.index).trimEnd().slice(-8))
}
