import { primaryLanguage } from './abbreviations'
import { isFeminineInFrench, isFeminineInGerman, isFeminineInSpanish } from './gender'
import { parseNumber, type NumberWords } from './numbers'

/** A language (BCP 47) with its number words. */
export interface Numbered {
  readonly language: string
  readonly numbers: NumberWords
}

/** A number of any length, with sign and decimals; null for a text that is none. */
export function cardinal(text: string, { language, numbers }: Numbered): string | null {
  const number = parseNumber(text, language)
  if (number === null) return null
  const decimals = number.decimals === '' ? '' : ` ${numbers.point} ${[...number.decimals].map(numbers.cardinal).join(' ')}`
  const sign = number.minus ? `${numbers.minus} ` : text.trim().startsWith('+') ? `${plus[primaryLanguage(language)] ?? 'plus'} ` : ''
  return `${sign}${number.whole === '' ? '' : numbers.cardinal(number.whole)}${decimals}`.replace(/ {2,}/gu, ' ').trim()
}

/** What is said for a plus; *plus* in the languages that are not listed. */
export const plus: Readonly<Record<string, string>> = { es: 'más', it: 'più', pt: 'mais', pl: 'plus' }

/** A number before the name that it counts: in German, French and Spanish, one and what ends with it go with the name. */
export function counted(figures: string, name: string, { language, numbers }: Numbered): string {
  const primary = primaryLanguage(language)
  const words = numbers.cardinal(figures)
  const noun = /^[\p{L}-]+/u.exec(name)?.[0] ?? ''
  if (primary === 'de') return Number(figures) !== 1 ? words : isFeminineInGerman(noun) ? 'eine' : 'ein'
  if (primary === 'fr') return isFeminineInFrench(noun) ? feminine(words, 'fr') : words
  if (primary === 'es') return wordsOfSpanish.test(noun) ? words : isFeminineInSpanish(noun) ? feminine(words, 'es') : words.replace(/veintiuno$/u, 'veintiún').replace(/\buno$/u, 'un')
  return words
}

/** A number, as the language writes it, with the name of what it counts: one, or several. `isOne` has the name of one whatever the number; null for a text that is no number. */
export function quantity(figures: string, [one, many]: readonly [one: string, many: string], numbered: Numbered, isOne = false): string | null {
  const [number, words] = [parseNumber(figures, numbered.language), cardinal(figures, numbered)]
  if (number === null || words === null) return null
  const name = isOne || number.decimals === '' && number.whole === '1' || primaryLanguage(numbered.language) === 'fr' && Number(number.whole) < 2 ? one : many
  return `${/^\d/u.test(figures) && number.decimals === '' ? counted(number.whole, name, numbered) : words} ${name}`
}

/** A number of two to four figures as English says it in names and years: two ten, one oh one, twelve thirty-four; three hundred. */
export function inPairs(figures: string, { numbers }: Pick<Numbered, 'numbers'>): string {
  const word = (text: string): string => numbers.cardinal(String(Number(text)))
  if (figures.startsWith('0')) return [...figures].map(numbers.cardinal).join(' ')
  if (figures.length < 3) return word(figures)
  const [high, low] = [figures.slice(0, -2), figures.slice(-2)]
  if (low === '00') return high.length === 2 && high.endsWith('0') ? word(figures) : `${word(high)} hundred`
  return `${word(high)} ${low.startsWith('0') ? `oh ${word(low)}` : word(low)}`
}

/** Words behind a number that it does not count. */
const wordsOfSpanish = /^(?:por|a|al|en|de|del|y|o|e|u|para|con|sin|contra|hasta|desde|la|las|una|era|eran|entre|sobre|es|son|fue|fueron|más|menos)$/u

/** A number in the feminine, in French or Spanish. In Spanish hundreds agree as well (RAE, Nueva gramática, 21.2): doscientas abejas; not before millions. */
export function feminine(words: string, language: string): string {
  return language === 'es' ? words.replace(/uno$/u, 'una').replace(/(?<=cient|quinient)os(?!.*mill[oó]n)/gu, 'as') : words.replace(/(?<![\p{L}])un$/u, 'une')
}
