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

/** Words behind a number that it does not count. */
const wordsOfSpanish = /^(?:por|a|al|en|de|del|y|o|e|u|para|con|sin|contra|hasta|desde|la|las|una|era|eran|entre|sobre|es|son|fue|fueron|más|menos)$/u

/** A number in the feminine, in French or Spanish. In Spanish hundreds agree as well (RAE, Nueva gramática, 21.2): doscientas abejas; not before millions. */
export function feminine(words: string, language: string): string {
  return language === 'es' ? words.replace(/uno$/u, 'una').replace(/(?<=cient|quinient)os(?!.*mill[oó]n)/gu, 'as') : words.replace(/(?<![\p{L}])un$/u, 'une')
}
