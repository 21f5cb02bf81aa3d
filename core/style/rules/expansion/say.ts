import { cardinal } from '../../../language/counted'
import { parseNumber } from '../../../language/numbers'
import { sayAsWords, type SayAsKind } from '../../../language/say-as'
import type { Grammar } from './form'

// Numbers in words, as several kinds of rules need them.

/** As a direction *say as* would have it; null where the text is none such. */
export function saidAs(text: string, kind: SayAsKind, { language }: Pick<Grammar, 'language'>, format?: string): string | null {
  const result = sayAsWords(text, kind, format, language)
  return 'words' in result ? result.words : null
}

/** A number with sign, groups and decimals; null for a text that is none. */
export function numberSaid(text: string, grammar: Grammar): string | null {
  return cardinal(text, grammar)
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

/** A number of two to four figures as English says it in names: two ten, one oh one, twelve thirty-four; three hundred. */
export function inPairs(figures: string, grammar: Pick<Grammar, 'numbers'>): string {
  if (figures.startsWith('0') || figures.length < 3) return figures.startsWith('0') ? oneByOne(figures, grammar) : word(figures, grammar)
  const [high, low] = [figures.slice(0, -2), figures.slice(-2)]
  if (low === '00') return high.length === 2 && high.endsWith('0') ? word(figures, grammar) : `${word(high, grammar)} hundred`
  return `${word(high, grammar)} ${low.startsWith('0') ? `oh ${word(low, grammar)}` : word(low, grammar)}`
}

/** The plural of an English number word: twenties, sixteens, sixes. */
export function inPlural(words: string): string {
  return words.replace(/(?:y|([^y]))$/u, (_, last: string | undefined) => last === undefined ? 'ies' : /[xs]$/u.test(last) ? `${last}es` : `${last}s`)
}
