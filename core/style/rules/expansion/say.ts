import { parseNumber } from '../../../language/numbers'
import { sayAsWords, type SayAsKind } from '../../../language/say-as'
import type { Grammar } from './form'

// Numbers in words, as several kinds of rules need them.

/** As a direction *say as* would have it; null where the text is none such. */
export function saidAs(text: string, kind: SayAsKind, { language }: Pick<Grammar, 'language'>, format?: string): string | null {
  const result = sayAsWords(text, kind, format, language)
  return 'words' in result ? result.words : null
}

/** A whole number. */
export const word = (value: number | string, { numbers }: Pick<Grammar, 'numbers'>): string => numbers.cardinal(String(Number(value)))

export const ordinal = (value: number | string, { numbers }: Grammar): string => numbers.ordinal(String(Number(value)))

/** Figures one by one. */
export const oneByOne = (figures: string, { numbers }: Pick<Grammar, 'numbers'>): string => [...figures].filter(each => /\d/u.test(each)).map(numbers.cardinal).join(' ')

/** Its value; not a number where it is none. */
export function valueOf(text: string, { language }: Grammar): number {
  const parsed = parseNumber(text, language)
  return parsed === null ? Number.NaN : Number(`${parsed.minus ? '-' : ''}${parsed.whole === '' ? '0' : parsed.whole}.${parsed.decimals || '0'}`)
}

/** The plural of an English number word: twenties, sixteens, sixes. */
export function inPlural(words: string): string {
  return words.replace(/(?:y|([^y]))$/u, (_, last: string | undefined) => last === undefined ? 'ies' : /[xs]$/u.test(last) ? `${last}es` : `${last}s`)
}

/** Between a quantity and what it is measured by: per hour. */
export const perWord = ({ primary }: Pick<Grammar, 'primary'>): string => ({ en: 'per', de: 'pro', fr: 'par', es: 'por' })[primary]!

export const capitalized = (text: string): string => text.replace(/^./u, first => first.toUpperCase())
