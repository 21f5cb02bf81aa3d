import { withoutTail } from '../tail'
import { transliterate } from 'transliteration'

const longestTitle = 80

/** File systems take 255 bytes (all signs here are ASCII); an extension, and another one while a file is being made, need room. */
const longestName = 240

/** Names that some file systems reserve, whatever their extension. */
const reserved = /^(?:con|prn|aux|nul|com\d|lpt\d)$/u

/**
 * A title as a piece of a file name that every file system takes: lower-case a–z, figures and single
 * hyphens, at most 80 characters. A title without any letter or figure gives `part`.
 */
export function fileSafe(title: string): string {
  const slug = transliterate(title.normalize('NFKC').replace(/['’‘ʼ]/gu, ''))
    .normalize('NFKD').toLowerCase().replace(/[^a-z0-9]+/gu, '-')
  const short = withoutTail(slug.replace(/^-+/u, '').slice(0, longestTitle), /-/u)
  return short === '' || reserved.test(short) ? `part${short === '' ? '' : `-${short}`}` : short
}

/** A number padded to the width of `count`, at least two figures, so that names sort in playing order; a piece of what has a number is told by a letter behind it: 01a, 01b … 01z, 01za. */
export function numberLabel(number: number, count: number, piece: number | null = null): string {
  const padded = String(number).padStart(Math.max(2, String(count).length), '0')
  return piece === null ? padded : padded + 'z'.repeat(Math.floor((piece - 1) / lettersUsed)) + String.fromCharCode(firstLetter + (piece - 1) % lettersUsed)
}

/** The last letter only says that others follow, so that names sort however many pieces there are. */
const lettersUsed = 25
const firstLetter = 'a'.charCodeAt(0)

/** The file name (without extension) for a pattern that begins with `{number}`, which is replaced by a label. `safe`: `fileSafe`, or what has its results at hand. */
export function fileName(pattern: string, label: string, title: string, safe = fileSafe): string {
  const pieces = pattern.split(/(\{number\}|\{title\})/u)
    .map(piece => piece === '{number}' ? label : piece === '{title}' ? safe(title) : piece.replace(/[^A-Za-z0-9._ -]+/gu, '-'))
  return withoutTail(pieces.join('').slice(0, longestName), /[. -]/u)
}
