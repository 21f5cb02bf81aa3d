import { lookup } from '../lookup'
import { cardinal, counted, type Numbered } from './counted'
import { currencyNamesOf } from './formatter-names'
import { parseNumber } from './numbers'
import type { CurrencyNames, RuleWords } from './words'

// Sums of money in words.

/** A language whose own words for currencies are known. */
export interface MoneyWords extends Numbered {
  /** Of its tag (BCP 47). */
  readonly primary: string
  readonly words: RuleWords
}

/** A number of thousands, millions and the like, by their short form; one of them is named so: eine Million. */
export function largeSaid(figures: string, magnitude: string, grammar: MoneyWords): string | null {
  const [number, name] = [cardinal(figures, grammar), grammar.words.magnitudes[magnitude]!]
  if (number === null) return null
  const { primary, numbers } = grammar
  // Cinq cent mille is one number.
  if (/^(?:mille|mil)$/u.test(name) && /^\d+$/u.test(figures)) return numbers.cardinal(`${figures}000`)
  if (figures === '1' && primary === 'de') return name.startsWith('Milli') ? `eine ${name.replace(/en$/u, '')}` : `ein ${name}`
  if (figures === '1' && primary === 'fr') return `un ${name.replace(/s$/u, '')}`
  if (figures === '1' && primary === 'es') return 'un millón'
  return `${number} ${name}`
}

/** What a currency is called; of one that the language has no own names for, what its formatter says. */
function namesOf(code: string, grammar: MoneyWords): CurrencyNames | null {
  const own = lookup(grammar.words.currencies, code)
  if (own !== undefined) return own
  const names = currencyNamesOf(code, grammar.language)
  return names === null ? null : { unit: names, part: ['', ''] }
}

/** What stands between a large number and a name: in French and Spanish a million is *of* something. */
function linkTo(name: string, magnitude: string, { primary }: MoneyWords): string {
  if (!/^(?:millón|millones|millions?|milliards?)$/u.test(magnitude)) return ' '
  if (primary === 'fr') return /^[aeiouéh]/u.test(name) ? ' d’' : ' de '
  return primary === 'es' ? ' de ' : ' '
}

/** A sum as it is written. */
export interface Sum {
  /** With sign and decimals, as the language writes them. */
  readonly figures: string
  /** The sign or the code of its currency. */
  readonly code: string
  /** A short form of a large number (`Mio.`, `k`), as the words of the language have it; empty for none. */
  readonly magnitude: string
  /** An attribute of a noun, which English has in the singular: a five-dollar bill. */
  readonly isAttribute?: boolean
}

/** A sum of money in words; null for what is none. */
export function moneySaid({ figures, code, magnitude, isAttribute = false }: Sum, grammar: MoneyWords): string | null {
  const names = namesOf(code, grammar)
  const parsed = parseNumber(figures, grammar.language)
  if (names === null || parsed === null) return null
  // The $5,761,377.57 deficit is said in full.
  const isOne = grammar.primary === 'en' && isAttribute && !(Number(parsed.decimals) > 0 && parsed.whole.length > 3)
  const [one, many] = names.unit
  if (magnitude !== '') {
    const number = largeSaid(figures, magnitude, grammar)
    const name = grammar.words.magnitudes[magnitude]!
    return number === null ? null : isOne ? `${number.replace(/ (?=\S+$)/u, '-')}-${one}` : `${number}${linkTo(many, name, grammar)}${many}`
  }
  const { minus, whole, decimals } = parsed
  const sign = minus ? `${grammar.numbers.minus} ` : ''
  const hundredths = Number(decimals)
  if (decimals === '' || hundredths === 0 && decimals.length === 2) {
    if (isOne && !minus) return `${grammar.numbers.cardinal(whole)}-${one}`
    const name = Number(whole) === 1 || grammar.primary === 'fr' && Number(whole) < 2 ? one : many
    return `${sign}${counted(whole, name, grammar)}${/(?:millions?|milliards?|millón|millones)$/u.test(grammar.numbers.cardinal(whole)) ? linkTo(name, 'millions', grammar) : ' '}${name}`
  }
  // Tenths and thousandths of a unit: the point is said.
  if (decimals.length !== 2 || names.part[0] === '' && hundredths > 0 && whole === '0') {
    const number = cardinal(figures, grammar)
    return number === null ? null : `${number} ${isOne ? one : many}`
  }
  const part = names.part[hundredths === 1 ? 0 : 1]
  const small = counted(String(hundredths), part, grammar)
  if (whole === '' || Number(whole) === 0) return `${sign}${isOne ? `${grammar.numbers.cardinal(String(hundredths))}-${names.part[0]}` : `${small} ${part}`}`
  if (isOne) return `${sign}${grammar.numbers.cardinal(whole)}-${one} ${small}`
  const units = `${counted(whole, names.unit[0], grammar)} ${Number(whole) === 1 ? one : many}`
  switch (grammar.primary) {
    case 'en': return names.part[0] === '' ? `${sign}${units} ${small}` : `${sign}${units} and ${small} ${part}`
    case 'de':
    case 'fr': return `${sign}${units} ${grammar.numbers.cardinal(String(hundredths))}`
    default: return `${sign}${units} con ${grammar.numbers.cardinal(String(hundredths))}`
  }
}
