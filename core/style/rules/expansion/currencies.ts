import { cardinal } from '../../../language/counted'
import { unitNames } from '../../../language/unit-names'
import { largeSaid, moneySaid } from '../../../language/money'
import { isAttribute, screenLines } from './english'
import { begins, dash, expansion, free, gap, oneOf, sign, type Form, type Found, type Grammar } from './form'
import { perWord, valueOf } from './say'

/** Codes (ISO 4217) whose names the formatters of a language know. */
const codes = ['EUR', 'GBP', 'USD', 'CHF', 'JPY', 'PLN', 'CZK', 'SEK', 'NOK', 'DKK', 'CAD', 'AUD', 'NZD', 'CNY', 'INR', 'BRL', 'MXN', 'ZAR', 'TRY', 'HUF', 'RUB', 'KRW', 'ARS']

const money = ({ words }: Grammar): string => `(?:${oneOf([...new Set([...Object.keys(words.currencies), ...codes])])})`
/** Signs that stand before a number: an F there is none of money (F1), and a word is none either. */
const ahead = ({ words }: Grammar): string => `(?:${oneOf([...new Set([...Object.keys(words.currencies).filter(name => !/^(?:FF?|\p{L}\p{Ll}{2,})$/u.test(name)), ...codes])])})`
const large = ({ words }: Grammar): string => `(?:${oneOf(Object.keys(words.magnitudes))})`

/** What a sum before it belongs to, without an article too: $5 bills. */
const priced = /^ (?:bills|notes|coins|tickets|stamps|fees|fines|tips|rooms|meals|prizes|bets|chips|tokens|vouchers|homes|houses|loans|grants)\b/u

/** A sum with its surroundings, which tell whether it is an attribute. */
function sumSaid(figures: string, code: string, magnitude: string, found: Found): string | null {
  return moneySaid({ figures, code, magnitude, isAttribute: isAttribute(found) || priced.test(found.after) || /^-(?:a|an|per)-\p{L}/u.test(found.after) }, found.grammar)
}

/** The sign before the number: £4.50, $1.2M. */
const before: Form = {
  pattern: grammar => `${free}(?<minus>[-−])?(?<code>${ahead(grammar)}) ?(?<minus2>[-−])?(?<sum>${grammar.number})(?:${gap}(?<large>${large(grammar)})(?!\\p{L}))?(?!\\d)`,
  say: found => sumSaid(`${found.group('minus') === '' && found.group('minus2') === '' ? '' : '-'}${found.group('sum')}`, found.group('code'), found.group('large'), found),
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
  pattern: grammar => `${free}(?<code>${ahead(grammar)}) ?(?<low>${grammar.number})(?:${gap}(?<largeLow>${large(grammar)})(?!\\p{L}))?${dash}(?:\\k<code> ?)?(?<high>${grammar.number})(?:${gap}(?<large>${large(grammar)})(?!\\p{L}))?(?!\\d)`,
  say: found => {
    const { group, grammar } = found
    if (/-/u.test(found.whole) && valueOf(group('high'), grammar) < valueOf(group('low'), grammar) && group('large') === group('largeLow')) {
      // In old books a hyphen stands before the cents: $1,534,367-22.
      const isParts = !found.whole.slice(1).includes(group('code')) && /^\d{2}$/u.test(group('high')) && /,/u.test(group('low')) && grammar.primary === 'en'
      return isParts ? sumSaid(`${group('low')}.${group('high')}`, group('code'), '', found) : null
    }
    const high = sumSaid(group('high'), group('code'), group('large'), found)
    const low = lowerSum(found)
    return low === null || high === null ? null : `${low} ${grammar.words.to} ${high}`
  },
}

const isScreenLines = new RegExp(`^${screenLines}$`, 'u')

/** From one sum with parts of a unit to another, the sign behind both: 2,50–3,50 €. */
const rangeBehind: Form = {
  needs: /,\d\d/u,
  pattern: grammar => `${begins}(?<low>\\d[\\d.]{0,9},\\d\\d)${dash}(?<high>\\d[\\d.]{0,9},\\d\\d)${gap}(?<code>${money(grammar)})(?![\\d\\p{L}])`,
  say: found => {
    const [low, high] = [sumSaid(found.group('low'), found.group('code'), '', { ...found, after: '' }), sumSaid(found.group('high'), found.group('code'), '', found)]
    return low === null || high === null ? null : `${low} ${found.grammar.words.to} ${high}`
  },
}

/** Pence and cents with their sign: 50p, 5¢, 99 ct. */
const parts: Form = {
  pattern: ({ primary, number }) => ({ en: `${begins}(?<sum>${number})(?<part>p(?![\\p{L}\\p{N}.])|p(?=\\.(?:\\s|$))|(?<=\\d\\d)c(?![\\p{L}\\p{N}])|[ \\u00a0]?¢)`, de: `${begins}(?<sum>\\d+)${gap}(?<part>ct|Ct\\.?)(?![\\p{L}\\p{N}])`, fr: `${begins}(?<sum>\\d+)${gap}(?<part>cts?\\.?)(?![\\p{L}\\p{N}])`, es: `${begins}(?<sum>\\d+)${gap}(?<part>cts?\\.)(?![\\p{L}\\p{N}])` }[primary] ?? null),
  say: found => {
    const { group, grammar } = found
    const number = cardinal(group('sum'), grammar)
    const [one, many] = grammar.words.currencies[group('part') === 'p' ? '£' : grammar.primary === 'en' ? '$' : '€']!.part
    if (number === null || group('part') === 'p' && (isScreenLines.test(group('sum')) || /^(?:p{1,2}\.?|pages?)\s*$/u.test(found.before))) return null
    return isAttribute(found) && grammar.primary === 'en' ? `${number}-${group('part') === 'p' ? many : one}` : `${number} ${group('sum') === '1' ? one : many}`
  },
}

/** From so many pence to so many: 10p–20p. */
const partsRange: Form = {
  needs: /\dp/u,
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<low>\\d{1,3})p?${dash}(?<high>\\d{1,3})p(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar, before }) => /(?:p{1,2}\.?|pages?)\s*$/u.test(before) ? null : `${cardinal(group('low'), grammar)!} ${grammar.words.to} ${cardinal(group('high'), grammar)!} pence`,
}

/** What a sum is paid for: $10/month, 5 €/kg. */
const rate: Form = {
  needs: /\//u,
  pattern: grammar => `(?<=\\d[\\d.,]{0,12}(?:[ \\u00a0]?(?:k|K|m|M|bn|Mio\\.|Mrd\\.))?[ \\u00a0]?(?:[€£$¢]|ct|p)?)(?<=[€£$¢p]|ct|[€£$][ \\u00a0]?[\\d.,kKmMbn \\u00a0]{1,20})/[ \\u00a0]?(?:(?<unit>${oneOf(['kg', 'g', 'lb', 'oz', 't', 'l', 'm', 'm²', 'm³', 'km', 'ha', 'h', 'kWh', 'MWh', 'GB', 'min', 's'])})|(?<word>${{ en: 'hour|hr|day|night|week|month|mo|year|yr|person|head|mile|gallon|gal|unit|litre|liter|share|barrel', de: 'Stunde|Std\\.|Tag|Nacht|Woche|Monat|Jahr|Person|Stück|Liter|Kopf|Flasche|Glas', fr: 'heure|jour|nuit|semaine|mois|an|personne|litre|pièce|bouteille', es: 'hora|día|noche|semana|mes|año|persona|litro|pieza|botella' }[grammar.primary]!}))(?![\\p{L}\\p{N}²³])`,
  say: ({ group, grammar }) => {
    const short: Readonly<Record<string, string>> = { 'hr': 'hour', 'mo': 'month', 'yr': 'year', 'gal': 'gallon', 'Std.': 'Stunde' }
    const name = group('unit') === '' ? short[group('word')] ?? group('word') : unitNames(group('unit'), grammar)?.[0]
    return name === undefined ? null : ` ${perWord(grammar)} ${name}`
  },
}

/** Joined by hyphens, as an attribute: 5-€-Schein, 1,5-Mio.-Euro-Haus. */
const hyphened: Form = {
  needs: /\d-/u,
  pattern: grammar => `${begins}(?<sum>${grammar.number})-(?:(?<code>[£€$])|(?<large>(?:Mio|Mrd|Tsd)\\.))-(?=\\p{L})`,
  say: ({ group, grammar }) => {
    const number = cardinal(group('sum'), grammar)
    if (group('large') !== '') return number === null || grammar.primary !== 'de' ? null : `${number}-${grammar.words.magnitudes[group('large')]!}-`
    return number === null ? null : `${number}-${grammar.words.currencies[group('code')]!.unit[0]}-`
  },
}

export const currencies = expansion([hyphened, partsRange, rangeBefore, rangeBehind, before, behind, parts, rate])
