import { cardinal } from '../../../language/counted'
import { largeSaid, moneySaid } from '../../../language/money'
import { isAttribute } from './english'
import { begins, dash, expansion, free, gap, oneOf, sign, type Form, type Found, type Grammar } from './form'

/** Codes (ISO 4217) whose names the formatters of a language know. */
const codes = ['EUR', 'GBP', 'USD', 'CHF', 'JPY', 'PLN', 'CZK', 'SEK', 'NOK', 'DKK', 'CAD', 'AUD', 'NZD', 'CNY', 'INR', 'BRL', 'MXN', 'ZAR', 'TRY', 'HUF', 'RUB', 'KRW', 'ARS']

const money = ({ words }: Grammar): string => `(?:${oneOf([...new Set([...Object.keys(words.currencies), ...codes])])})`
const large = ({ words }: Grammar): string => `(?:${oneOf(Object.keys(words.magnitudes))})`

/** What a sum before it belongs to, without an article too: $5 bills. */
const priced = /^ (?:bills|notes|coins|tickets|stamps|fees|fines|tips|rooms|meals|prizes|bets|chips|tokens|vouchers|homes|houses|loans|grants)\b/u

/** A sum with its surroundings, which tell whether it is an attribute. */
function sumSaid(figures: string, code: string, magnitude: string, found: Found): string | null {
  return moneySaid({ figures, code, magnitude, isAttribute: isAttribute(found) || priced.test(found.after) }, found.grammar)
}

/** The sign before the number: £4.50, $1.2M. */
const before: Form = {
  pattern: grammar => `${free}(?<minus>[-−])?(?<code>${money(grammar)}) ?(?<sum>${grammar.number})(?:${gap}(?<large>${large(grammar)})(?!\\p{L}))?(?!\\d)`,
  say: found => sumSaid(`${found.group('minus') === '' ? '' : '-'}${found.group('sum')}`, found.group('code'), found.group('large'), found),
}

/** The sign behind it: 5 €, 5,- €, 2,5 Mrd. Euro. */
const behind: Form = {
  pattern: grammar => `${begins}(?<sum>${sign}${grammar.number})(?:,[-–—])?(?:${gap}(?<large>${large(grammar)})(?!\\p{Ll}))?${gap}(?<code>${money(grammar)}|zł|Kč)(?![\\d\\p{L}])`,
  say: found => sumSaid(found.group('sum'), found.group('code'), found.group('large'), found),
}

/** The first of two sums: with parts of a unit in full, else its number, for the name comes with the second: five to ten million pounds. */
function lowerSum(found: Found): string | null {
  const { group, grammar } = found
  if (/[.,]\d\d$/u.test(group('low'))) return sumSaid(group('low'), group('code'), '', { ...found, after: '' })
  return group('largeLow') === '' || group('largeLow') === group('large') ? cardinal(group('low'), grammar) : largeSaid(group('low'), group('largeLow'), grammar)
}

/** From one sum to another, the sign before both or before the first: $5–$10, £5–10m. */
const rangeBefore: Form = {
  pattern: grammar => `${free}(?<code>${money(grammar)}) ?(?<low>${grammar.number})(?:${gap}(?<largeLow>${large(grammar)})(?!\\p{L}))?${dash}(?:\\k<code> ?)?(?<high>${grammar.number})(?:${gap}(?<large>${large(grammar)})(?!\\p{L}))?(?!\\d)`,
  say: found => {
    const { group, grammar } = found
    const high = sumSaid(group('high'), group('code'), group('large'), found)
    const low = lowerSum(found)
    return low === null || high === null ? null : `${low} ${grammar.words.to} ${high}`
  },
}

/** Pence and cents with their sign: 50p, 5¢, 99 ct. */
const parts: Form = {
  pattern: ({ primary, number }) => ({ en: `${begins}(?<sum>${number})(?<part>p(?![\\p{L}\\p{N}.])|p(?=\\.(?:\\s|$))|[ \\u00a0]?¢)`, de: `${begins}(?<sum>\\d+)${gap}(?<part>ct|Ct\\.?)(?![\\p{L}\\p{N}])`, fr: null, es: null }[primary] ?? null),
  say: found => {
    const { group, grammar } = found
    const number = cardinal(group('sum'), grammar)
    const [one, many] = grammar.words.currencies[group('part') === 'p' ? '£' : '$']!.part
    if (number === null || group('part') === 'p' && /^(?:p{1,2}\.?|pages?)\s*$/u.test(found.before)) return null
    return isAttribute(found) && grammar.primary === 'en' ? `${number}-${group('part') === 'p' ? many : one}` : `${number} ${group('sum') === '1' ? one : many}`
  },
}

/** From so many pence to so many: 10p–20p. */
const partsRange: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<low>\\d{1,3})p?${dash}(?<high>\\d{1,3})p(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar, before }) => /(?:p{1,2}\.?|pages?)\s*$/u.test(before) ? null : `${cardinal(group('low'), grammar)!} ${grammar.words.to} ${cardinal(group('high'), grammar)!} pence`,
}

/** Joined by hyphens, as an attribute: 5-€-Schein. */
const hyphened: Form = {
  pattern: grammar => `${begins}(?<sum>${grammar.number})-(?<code>[£€$])-(?=\\p{L})`,
  say: ({ group, grammar }) => {
    const number = cardinal(group('sum'), grammar)
    return number === null ? null : `${number}-${grammar.words.currencies[group('code')]!.unit[0]}-`
  },
}

export const currencies = expansion([hyphened, partsRange, rangeBefore, before, behind, parts])
