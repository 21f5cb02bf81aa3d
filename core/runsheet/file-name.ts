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

/**
 * The file name (without extension) for a pattern that begins with `{number}`. The number is padded to
 * the width of `count`, at least two figures, so that names sort in playing order.
 */
export function fileName(pattern: string, number: number, count: number, title: string): string {
  const padded = String(number).padStart(Math.max(2, String(count).length), '0')
  const pieces = pattern.split(/(\{number\}|\{title\})/u)
    .map(piece => piece === '{number}' ? padded : piece === '{title}' ? fileSafe(title) : piece.replace(/[^A-Za-z0-9._ -]+/gu, '-'))
  return withoutTail(pieces.join('').slice(0, longestName), /[. -]/u)
}
