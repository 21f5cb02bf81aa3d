import { transliterate } from 'transliteration'
import { mostNameBytes, namePieces, type NameField, type NameRules } from '../delivery/naming'
import { withoutTail } from '../tail'

const longestTitle = 80

/** Names that some file systems reserve, whatever their extension. */
const reserved = /^(?:con|prn|aux|nul|com\d|lpt\d)$/iu

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

/** The same with letters as they are written: without signs that some file systems refuse, and what cannot be seen. */
export function fileWritten(title: string): string {
  const kept = title.normalize('NFC').replace(/[/\\|]/gu, '-').replace(/[<>:"?*\p{Cc}\p{Cf}\p{Cs}\p{Co}\p{Cn}]/gu, ' ').replace(/\s+/gu, ' ')
  const short = withoutTail([...kept.replace(/^[\s.-]+/u, '')].slice(0, longestTitle).join(''), /[\s.-]/u)
  return short === '' || reserved.test(short) ? `part${short === '' ? '' : ` ${short}`}` : short
}

/** How a value is written in a name, by the letters of its rules. */
export const writing = { ascii: fileSafe, written: fileWritten } as const

/** A number padded to the width of `count`, and to so many figures at least, so that names sort in playing order; a piece of what has a number is told by a letter behind it: 01a, 01b … 01z, 01za. */
export function numberLabel(number: number, count: number, piece: number | null = null, digits = 2): string {
  const padded = String(number).padStart(Math.max(digits, String(count).length), '0')
  return piece === null ? padded : padded + 'z'.repeat(Math.floor((piece - 1) / lettersUsed)) + String.fromCharCode(firstLetter + (piece - 1) % lettersUsed)
}

/** The last letter only says that others follow, so that names sort however many pieces there are. */
const lettersUsed = 25
const firstLetter = 'a'.charCodeAt(0)

const bytesOf = (text: string): number => new TextEncoder().encode(text).length

type NameValues = Readonly<Partial<Record<NameField, string>>>

/** The name (without extension) of one file by a pattern, as `fileNaming` makes it. */
export function fileName(pattern: string, values: NameValues, rules: NameRules): string {
  return fileNaming(pattern, rules)(values)
}

/** Bytes of a sign of UTF-16, at most: in UTF-8, or of those that file names in a–z have. */
const mostSignBytes = { ascii: 1, written: 3 } as const

/**
 * What names files (without extension) by a pattern. Fields for which there is nothing are left out with the sign before them. A name that is too long loses the end of its longest field, never its number.
 * `safe`: how a title is written, or what has the results at hand.
 */
export function fileNaming(pattern: string, { letters, longest }: NameRules, safe: (value: string) => string = writing[letters]): (values: NameValues) => string {
  const refused = letters === 'ascii' ? /[^A-Za-z0-9._ -]+/gu : /[<>:"/\\|?*\p{Cc}\p{Cf}]+/gu
  const written = namePieces(pattern).map(piece => 'text' in piece ? { text: piece.text.replace(refused, '-') } : piece)
  return values => {
    const pieces = written.map((piece): { text: string, readonly canShrink: boolean } => {
      if ('text' in piece) return { text: piece.text, canShrink: false }
      const value = values[piece.field] ?? ''
      return piece.field === 'number' ? { text: value, canShrink: false } : { text: value === '' ? '' : safe(value), canShrink: true }
    })
    const name = (): string => pieces.map(piece => piece.text).join('')
    const excess = (): number => {
      const text = name()
      // Nearly all names are short, and need no counting.
      if (text.length <= longest && text.length * mostSignBytes[letters] <= mostNameBytes) return 0
      return Math.max([...text].length - longest, bytesOf(text) - mostNameBytes)
    }
    for (let over = excess(); over > 0; over = excess()) {
      const long = pieces.filter(piece => piece.canShrink).reduce<(typeof pieces)[number] | null>((most, piece) => most === null || piece.text.length > most.text.length ? piece : most, null)
      if (long === null || long.text === '') break
      const signs = [...long.text]
      // A sign has four bytes at most.
      long.text = signs.slice(0, -Math.max(1, Math.min(Math.floor(over / 4), signs.length >> 2))).join('')
    }
    // What stood on either side of an empty field.
    const tidy = name().replace(/([-_])[-_]+/gu, '$1').replace(/ +/gu, ' ').replace(/( - )+/gu, ' - ').replace(/^[\s.-]+/u, '')
    return withoutTail(tidy, /[\s.-]/u)
  }
}
