import { addTo } from '#core/tally'
import { looksLikePower } from '../raised'
import type { Line } from './lines'

/** What is known of the notes at the feet of pages. */
export interface Footnotes {
  /** The note that a line belongs to. */
  readonly noteOf: ReadonlyMap<Line, string>
  /** The number or sign that a note's first line begins with, where it is part of the line's text. */
  readonly numberOf: ReadonlyMap<Line, string>
  /** The note that each mark of a line leads to, null for a mark without any. */
  readonly marked: (line: Line, mark: number) => string | null
}

/** Notes are set smaller than the text, at most in this share of its size. */
const noteShare = 0.95
/** Points by which lines of one size differ. */
const sameSize = 0.5
const ended = /[.!?…]["”’»)\]]*$/u
/** A number or sign at the beginning of a note that is not raised. */
const plainNumber = /^(?:\[?\d{1,3}[\].)]?|[*†‡§¶]{1,3})\s?(?=\S)/u

/**
 * Finds footnotes: lines below the text of their page that begin with a mark that stands in that text, and are smaller or have it raised. What
 * goes on at the foot of the next page belongs to the last of them. `pages` are without running heads.
 */
export function footnotesOf(pages: readonly (readonly Line[])[], bodySize: number): Footnotes {
  const noteOf = new Map<Line, string>()
  const numberOf = new Map<Line, string>()
  const leads = new Map<Line, Map<number, string>>()
  let last: { readonly id: string, readonly page: number, readonly line: Line } | null = null
  pages.forEach((lines, page) => {
    const isSmall = (line: Line): boolean => line.size <= bodySize * noteShare
    const marks = marksOf(lines)
    const ids = new Map<string, string>()
    let open: { readonly id: string, readonly size: number } | null = null
    lines.forEach((line, index) => {
      const { sign, inText } = signOf(line)
      const isMarked = sign !== null && (isSmall(line) || inText === null) && marks.get(sign)?.some(({ line: other }) => isBelow(line, other)) === true
      if (isMarked && !ids.has(sign)) {
        open = { id: `foot ${page + 1} ${sign}`, size: line.size }
        ids.set(sign, open.id)
        if (inText !== null) numberOf.set(line, inText)
      } else if (open === null && last !== null && last.page === page - 1 && !ended.test(last.line.text) && index > 0 && lines.slice(index).every(isSmall)) {
        open = { id: last.id, size: line.size }
      } else if (open !== null && Math.abs(line.size - open.size) > sameSize) {
        open = null
      }
      if (open === null) return
      noteOf.set(line, open.id)
      last = { id: open.id, page, line }
    })
    for (const [sign, id] of ids) {
      const places = marks.get(sign)!.filter(({ line }) => !noteOf.has(line))
      const place = places.find(({ line, at }) => !looksLikePower(line.text.slice(0, at))) ?? places[0]
      if (place === undefined) continue
      const own = leads.get(place.line) ?? new Map<number, string>()
      leads.set(place.line, own.set(place.index, id))
    }
  })
  return { noteOf, numberOf, marked: (line, mark) => leads.get(line)?.get(mark) ?? null }
}

interface Mark {
  readonly line: Line
  readonly index: number
  readonly at: number
}

/** The marks within lines, by what they are. */
function marksOf(lines: readonly Line[]): ReadonlyMap<string, readonly Mark[]> {
  const marks = new Map<string, Mark[]>()
  for (const line of lines) line.marks.forEach(({ at, text }, index) => { if (at > 0) addTo(marks, text, { line, index, at }) })
  return marks
}

/** Whether a line stands below another one, or in a column of its own. */
function isBelow(line: Line, other: Line): boolean {
  return line !== other && (line.y < other.y || line.left >= other.right || other.left >= line.right)
}

/** The sign that a line begins with, and how it stands in its text where it does. */
export function signOf({ text, marks }: Pick<Line, 'text' | 'marks'>): { readonly sign: string | null, readonly inText: string | null } {
  if (marks[0]?.at === 0) return { sign: marks[0].text, inText: null }
  const [plain] = plainNumber.exec(text) ?? []
  return plain === undefined ? { sign: null, inText: null } : { sign: plain.replace(/[[\].)\s]/gu, ''), inText: plain }
}
