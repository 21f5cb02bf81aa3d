import { primaryLanguage } from '../../../language/abbreviations'
import { numberWords, type NumberWords } from '../../../language/numbers'
import { unitSigns } from '../../../language/unit-names'
import { ruleWords, type RuleWords } from '../../../language/words'
import { madeOnce } from '../../../made-once'
import { matchesOf } from '../../../matches'
import { apart, type NoOptions, type RuleHit, type RuleKind, type RuleText } from '../rule-kind'

// What is written short and said long, as forms: a pattern, and what is said for it.

export interface Grammar {
  /** BCP 47 */
  readonly language: string
  readonly primary: string
  readonly numbers: NumberWords
  readonly words: RuleWords
  /** Pattern of a number as the language writes it, without a sign before it. */
  readonly number: string
  /** Signs of units. */
  readonly units: readonly string[]
}

/** A place that a form has found. */
export interface Found {
  readonly whole: string
  readonly index: number
  /** What the pattern's groups have found; empty where they found nothing. */
  readonly group: (name: string) => string
  /** The text around it, at most `reach` characters on each side. */
  readonly before: string
  readonly after: string
  readonly grammar: Grammar
  readonly text: RuleText
}

/** A piece of what was found: said in other words, letter by letter, or as it is written. */
export interface Piece {
  readonly written: string
  readonly spoken?: string
  readonly letters?: true
}

/** One way of writing something. Of several that find the same place the first counts. */
export interface Form<Options extends object = NoOptions> {
  /** Null where a language does not write it so. */
  readonly pattern: (grammar: Grammar) => string | null
  readonly ignoreCase?: true
  /** What a text must have for it to be tried. */
  readonly needs?: RegExp
  /** Null leaves the place to the forms behind it. */
  readonly say: (found: Found, options: Options) => string | readonly Piece[] | null
  /** Whether what it says may be meant otherwise. */
  readonly isWeak?: (found: Found) => boolean
}

const reach = 80

/** Null for a language whose number words or rule words are not known. */
export const grammarOf = madeOnce((language): Grammar | null => {
  const [numbers, words, primary] = [numberWords(language), ruleWords(language), primaryLanguage(language)]
  return numbers === null || words === null ? null : { language, primary, numbers, words, number: numberPattern(primary), units: unitSigns(words) }
})

/** Groups of three figures are parted by the language's own sign, or by spaces (SI Brochure, 5.4.4). */
const grouped: Readonly<Record<string, readonly [sign: string, point: string]>> = { en: [',', '\\.'], de: ['[.’\']', ','], fr: ['[.]', ','], es: ['[.]', '[,]'] }

export function numberPattern(primary: string): string {
  const own = grouped[primary]
  if (own === undefined) return '\\d+(?:[.,]\\d+)?'
  const [sign, point] = own
  const thousands = `\\d{1,3}(?:${sign}\\d{3})+(?![\\d]|${sign}\\d)|`
  const whole = `(?:${thousands}\\d{1,3}(?:[ \\u00a0\\u202f\\u2009]\\d{3})+(?![\\d]|[ \\u00a0\\u202f\\u2009-]\\d)|\\d+)(?:${point}\\d+)?`
  // In English the nought before the point may be missing.
  return primary === 'en' ? `(?:${whole}|(?<!\\.)\\.\\d+)` : whole
}

/** Where a sum or a date may begin: not within a word, a code or a larger number. */
export const free = '(?<![\\p{L}\\p{N}]|\\d[.,:/]|[\\p{L}\\p{N}][.,](?=\\d)|\\d[ \\u00a0\\u202f\\u2009](?=\\d{3}(?!\\d)))'
/** The same for a number. What it begins with is looked at first: that is quickly done at every place of a text. */
export const begins = `(?=[-−–+.\\d])${free}`
/** Not a hyphen behind a word, nor the dash of a range: a sign touches its number and nothing else. */
export const sign = '(?:(?<![\\p{L}\\p{N}])(?<![\\p{N})][ \\u00a0\\u202f])[-−–+])?'
/** A space that may be missing. */
export const gap = '[ \\u00a0\\u202f\\u2009]?'
/** The dash of a range. */
export const dash = '[ \\u00a0]?[–—-][ \\u00a0]?'

export const escape = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/gu, '\\$&')

/** Texts as alternatives of a pattern, the longest first. */
export const oneOf = (texts: Iterable<string>): string => [...texts].sort((a, b) => b.length - a.length).map(escape).join('|')

/** Some of these texts where a word may begin, the longest first. Their first letters are looked at before all else, then what is `ahead`. */
export function wordsOf(texts: Iterable<string>, { begin = '(?<![\\p{L}\\p{N}.])', ahead = '' } = {}): string {
  const all = [...texts]
  return `(?=[${[...new Set(all.map(text => escape([...text][0]!)))].join('')}])${begin}${ahead}(?:${oneOf(all)})`
}

interface Prepared<Options extends object> extends Pick<Form<Options>, 'needs' | 'say' | 'isWeak'> {
  readonly pattern: RegExp
}

/**
 * A kind of rule made of forms. Patterns are made once for each language; texts without what `needs` finds are passed over. A number that
 * would be left in figures is no words: the place is left alone.
 */
export function expansion<Options extends object = NoOptions>(forms: readonly Form<Options>[], { needs = /\d/u, ...kind }: Partial<Pick<RuleKind<Options>, 'options' | 'required' | 'defaults'>> & { readonly needs?: RegExp } = {}): RuleKind<Options> {
  const prepared = new Map<string, readonly Prepared<Options>[]>()
  const formsOf = (grammar: Grammar): readonly Prepared<Options>[] => {
    let own = prepared.get(grammar.language)
    if (own === undefined) {
      own = forms.flatMap(({ pattern, ignoreCase, needs: asked, say, isWeak }) => {
        const source = pattern(grammar)
        return source === null ? [] : [{ pattern: new RegExp(source, ignoreCase === true ? 'giu' : 'gu'), ...(asked === undefined ? {} : { needs: asked }), ...(isWeak === undefined ? {} : { isWeak }), say }]
      })
      prepared.set(grammar.language, own)
    }
    return own
  }
  return {
    group: 'expansion', options: {}, required: [], defaults: {} as Options, ...kind,
    finder: options => text => {
      const grammar = needs.test(text.text) ? grammarOf(text.language) : null
      return grammar === null ? [] : hitsOf(formsOf(grammar), grammar, text, options)
    },
  }
}

function hitsOf<Options extends object>(forms: readonly Prepared<Options>[], grammar: Grammar, text: RuleText, options: Options): RuleHit[] {
  const hits: RuleHit[] = []
  let taken: Uint8Array | null = null
  for (const { pattern, needs, say, isWeak } of forms) {
    if (needs?.test(text.text) === false) continue
    for (const { 0: whole, index, groups } of matchesOf(pattern, text.text)) {
      if (whole === '' || taken?.[index] === 1 || taken?.[index + whole.length - 1] === 1) continue
      const found: Found = {
        whole, index, grammar, text, group: name => groups?.[name] ?? '',
        before: text.text.slice(Math.max(0, index - reach), index), after: text.text.slice(index + whole.length, index + whole.length + reach),
      }
      const said = say(found, options)
      if (said === null) continue
      const pieces = typeof said === 'string' ? [{ written: whole, spoken: said }] : said
      if (pieces.some(({ spoken }) => spoken !== undefined && /\d/u.test(spoken))) continue
      taken ??= new Uint8Array(text.text.length)
      taken.fill(1, index, index + whole.length)
      const weak = isWeak?.(found) === true ? { weak: true as const } : {}
      hits.push(...piecesAt(pieces, text.text, index).map(hit => ({ ...hit, ...weak })))
    }
  }
  return hits.sort((a, b) => a.start - b.start)
}

function piecesAt(pieces: readonly Piece[], text: string, index: number): RuleHit[] {
  let start = index
  return pieces.flatMap(({ written, spoken, letters }): RuleHit[] => {
    const [from, end] = [start, start + written.length]
    start = end
    if (letters === true) return [{ start: from, end, on: [{ kind: 'sayAs', interpretAs: 'characters' }] }]
    return spoken === undefined ? [] : [{ start: from, end, spoken: apart(spoken, text, from, end) }]
  })
}
