import { parseNumber } from '../../../language/numbers'
import { counted } from '../../../language/say-as'
import type { CurrencyNames } from '../words'
import { isAttribute } from './english'
import { begins, dash, expansion, gap, oneOf, sign, type Form, type Found, type Grammar } from './form'
import { largeSaid, numberSaid, saidAs } from './say'

/** Codes (ISO 4217) whose names the formatters of a language know. */
const codes = ['EUR', 'GBP', 'USD', 'CHF', 'JPY', 'PLN', 'CZK', 'SEK', 'NOK', 'DKK', 'CAD', 'AUD', 'NZD', 'CNY', 'INR', 'BRL', 'MXN', 'ZAR', 'TRY', 'HUF', 'RUB', 'KRW', 'ARS']

const money = ({ words }: Grammar): string => `(?:${oneOf([...new Set([...Object.keys(words.currencies), ...codes])])})`
const large = ({ words }: Grammar): string => `(?:${oneOf(Object.keys(words.magnitudes))})(?!\\p{L})`

/** What a currency is called; of one that the language has no own names for, what its formatter says. */
function namesOf(code: string, grammar: Grammar): CurrencyNames | null {
  const own = grammar.words.currencies[code]
  if (own !== undefined) return own
  const name = (figure: string): string | undefined => saidAs(`${figure} ${code}`, 'currency', grammar)?.split(' ').slice(1).join(' ')
  const [one, many] = [name('1'), name('5')]
  return one === undefined || many === undefined ? null : { unit: [one, many], part: ['', ''] }
}

/** What stands between a large number and a name: in French and Spanish a million is *of* something. */
function linkTo(name: string, magnitude: string, { primary }: Grammar): string {
  if (!/^(?:millón|millones|millions?|milliards?)$/u.test(magnitude)) return ' '
  if (primary === 'fr') return /^[aeiouéh]/u.test(name) ? ' d’' : ' de '
  return primary === 'es' ? ' de ' : ' '
}

/** A sum of money in words; null for what is none. */
function sumSaid(figures: string, code: string, magnitude: string, found: Found): string | null {
  const { grammar } = found
  const names = namesOf(code, grammar)
  const parsed = parseNumber(figures, grammar.language)
  if (names === null || parsed === null) return null
  const isOne = grammar.primary === 'en' && (isAttribute(found) || /^ (?:bills|notes|coins|tickets|stamps|fees|fines|tips|rooms|meals|prizes|bets|chips|tokens|vouchers|homes|houses|loans|grants)\b/u.test(found.after))
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
    const number = numberSaid(figures, grammar)
    return number === null ? null : `${number} ${isOne ? one : many}`
  }
  const part = names.part[hundredths === 1 ? 0 : 1]
  const small = counted(String(hundredths), part, grammar)
  if (whole === '' || Number(whole) === 0) return `${sign}${isOne ? `${grammar.numbers.cardinal(String(hundredths))}-${names.part[0]}` : `${small} ${part}`}`
  if (isOne) return `${sign}${grammar.numbers.cardinal(whole)}-${one} ${small}`
  const units = `${counted(whole, names.unit[0], grammar)} ${Number(whole) === 1 ? one : many}`
  switch (grammar.primary) {
    case 'en': return names.part[0] === '' ? `${sign}${units} ${small}` : `${sign}${units} and ${small} ${part}`
    case 'de': return `${sign}${units} ${grammar.numbers.cardinal(String(hundredths))}`
    case 'fr': return `${sign}${units} ${grammar.numbers.cardinal(String(hundredths))}`
    default: return `${sign}${units} con ${grammar.numbers.cardinal(String(hundredths))}`
  }
}

/** Words that say *million* after a number, before the written name of a currency too: 2,5 Mrd. Euro. */
const before: Form = {
  pattern: grammar => `${begins}(?<minus>[-−])?(?<code>${money(grammar)}) ?(?<sum>${grammar.number})(?:${gap}(?<large>${large(grammar)}))?(?!\\d)`,
  say: found => sumSaid(`${found.group('minus') === '' ? '' : '-'}${found.group('sum')}`, found.group('code'), found.group('large'), found),
}

const behind: Form = {
  pattern: grammar => `${begins}(?<sum>${sign}${grammar.number})(?:,[-–—])?(?:${gap}(?<large>${large(grammar).replace('(?!\\p{L})', '')})(?!\\p{Ll}))?${gap}(?<code>${money(grammar)}|zł|Kč)(?![\\d\\p{L}])`,
  say: found => sumSaid(found.group('sum'), found.group('code'), found.group('large'), found),
}

/** From one sum to another, the sign before both or before the first: $5–$10, £5–10m. */
const rangeBefore: Form = {
  pattern: grammar => `${begins}(?<code>${money(grammar)}) ?(?<low>${grammar.number})(?:${gap}(?<largeLow>${large(grammar)}))?${dash}(?:\\k<code> ?)?(?<high>${grammar.number})(?:${gap}(?<large>${large(grammar)}))?(?!\\d)`,
  say: found => {
    const { group, grammar } = found
    const high = sumSaid(group('high'), group('code'), group('large'), found)
    // The first has the size of the second, and its name once: five to ten million pounds.
    const isAlike = !/[.,]\d\d$/u.test(group('low'))
    const low = isAlike ? group('largeLow') === '' || group('largeLow') === group('large') ? numberSaid(group('low'), grammar) : largeSaid(group('low'), group('largeLow'), grammar) : sumSaid(group('low'), group('code'), '', { ...found, after: '' })
    return low === null || high === null ? null : `${low} ${grammar.words.to} ${high}`
  },
}

/** Pence and cents with their sign: 50p, 5¢, 99 ct. */
const parts: Form = {
  pattern: ({ primary, number }) => ({ en: `${begins}(?<sum>${number})(?<part>p(?![\\p{L}\\p{N}.])|p(?=\\.(?:\\s|$))|[ \\u00a0]?¢)`, de: `${begins}(?<sum>\\d+)${gap}(?<part>ct|Ct\\.?)(?![\\p{L}\\p{N}])`, fr: null, es: null }[primary] ?? null),
  say: found => {
    const { group, grammar } = found
    const number = numberSaid(group('sum'), grammar)
    const [one, many] = grammar.words.currencies[group('part') === 'p' ? '£' : '$']!.part
    if (number === null || group('part') === 'p' && /^(?:p{1,2}\.?|pages?)\s*$/u.test(found.before)) return null
    return isAttribute(found) && grammar.primary === 'en' ? `${number}-${group('part') === 'p' ? many : one}` : `${number} ${group('sum') === '1' ? one : many}`
  },
}

/** From so many pence to so many: 10p–20p. */
const partsRange: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<low>\\d{1,3})p?${dash}(?<high>\\d{1,3})p(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar, before }) => /(?:p{1,2}\.?|pages?)\s*$/u.test(before) ? null : `${numberSaid(group('low'), grammar)!} ${grammar.words.to} ${numberSaid(group('high'), grammar)!} pence`,
}

/** Joined by hyphens, as an attribute: 5-€-Schein. */
const hyphened: Form = {
  pattern: grammar => `${begins}(?<sum>${grammar.number})-(?<code>[£€$])-(?=\\p{L})`,
  say: ({ group, grammar }) => {
    const number = numberSaid(group('sum'), grammar)
    return number === null ? null : `${number}-${grammar.words.currencies[group('code')]!.unit[0]}-`
  },
}

export const currencies = expansion([hyphened, partsRange, rangeBefore, before, behind, parts])
