import { primaryLanguage } from './abbreviations'
import { withoutTail } from '../tail'
import { lookup } from '../lookup'
import { isFeminineInFrench, isFeminineInGerman, isFeminineInSpanish } from './gender'
import { numberWords, parseNumber, type NumberWords } from './numbers'

/** What a text can be said as; the names are those of the W3C Note on say-as (2005), with `currency` and `unit` of our own. */
export const sayAsKinds = ['characters', 'cardinal', 'ordinal', 'digits', 'telephone', 'date', 'time', 'currency', 'unit'] as const
export type SayAsKind = (typeof sayAsKinds)[number]

/** Orders of a date and kinds of clock (the Note, 3.1 and 3.2). */
export const dateFormats = ['dmy', 'mdy', 'ymd', 'dm', 'md', 'ym', 'my', 'd', 'm', 'y'] as const
export const timeFormats = ['hms12', 'hms24'] as const

/** Other names that are in use for the same. */
const aliases: Readonly<Record<string, SayAsKind>> = { 'number': 'cardinal', 'spell-out': 'characters', 'verbatim': 'characters', 'measure': 'unit', 'money': 'currency' }

export function sayAsKind(interpretAs: string): SayAsKind | null {
  return sayAsKinds.find(kind => kind === interpretAs) ?? (lookup(aliases, interpretAs) ?? null)
}

/** Words to be spoken, or why there are none. */
export type SaidAs = { readonly words: string } | { readonly reason: string }

/**
 * A text as words. `characters` are left to the voice, which knows their names: they have no words here. Reasons are
 * sentences for the user.
 */
export function sayAsWords(text: string, interpretAs: string, format: string | undefined, language: string): SaidAs {
  const kind = sayAsKind(interpretAs)
  if (kind === null) return { reason: `“${interpretAs}” is no kind of say-as that can be spoken. Choose one of ${sayAsKinds.join(', ')}.` }
  const numbers = numberWords(language)
  if (numbers === null) return { reason: `The number words of “${language}” are not known here. Write the words with Substitute.` }
  const words = speakers[kind](text.trim(), { format, language, numbers })
  return words === null ? { reason: `“${text.trim()}” is not ${expected[kind]}. Correct the text, or use Substitute.` } : { words }
}

const expected: Readonly<Record<SayAsKind, string>> = {
  characters: 'a text', cardinal: 'a number', ordinal: 'a whole number from 1', digits: 'a row of figures', telephone: 'a telephone number',
  date: 'a date in the order that is chosen (such as dmy)', time: 'a time such as 7:30', currency: 'a sum such as £4.50', unit: 'a number with a unit such as 5 km',
}

/** How a text is said. */
export interface Speaking {
  readonly format: string | undefined
  readonly language: string
  readonly numbers: NumberWords
}

const speakers: Readonly<Record<SayAsKind, (text: string, how: Speaking) => string | null>> = {
  characters: text => [...text].join(' '),
  cardinal,
  ordinal: (text, { numbers }) => {
    const figures = /^(\d{1,15})(?:st|nd|rd|th|\.|º|ª|e|er|ème|de|ste)?$/iu.exec(text.replace(/(?<=\d)[,.\s](?=\d{3}\b)/gu, ''))?.[1]
    return figures === undefined || /^0+$/u.test(figures) ? null : numbers.ordinal(figures)
  },
  digits: (text, { numbers }) => /\d/u.test(text) ? figuresOf(text, numbers) : null,
  telephone: (text, { numbers, language }) => {
    if (!/^\+?[\d\s()./–-]+$/u.test(text) || !/\d/u.test(text)) return null
    const groups = (text.match(/\d+/gu) ?? []).map(group => figuresOf(group, numbers))
    return `${text.startsWith('+') ? `${plus[primaryLanguage(language)] ?? 'plus'} ` : ''}${groups.join(', ')}`
  },
  date,
  time,
  currency,
  unit,
}

function figuresOf(text: string, numbers: NumberWords): string {
  return [...text.replace(/[\s.,/()–-]+/gu, ' ').trim()].map(sign => /\d/u.test(sign) ? numbers.cardinal(sign) : sign).join(' ').replace(/ {2,}/gu, ' ')
}

/** A number of any length, with sign and decimals; null for a text that is none. */
export function cardinal(text: string, { language, numbers }: Pick<Speaking, 'language' | 'numbers'>): string | null {
  const number = parseNumber(text, language)
  if (number === null) return null
  const decimals = number.decimals === '' ? '' : ` ${numbers.point} ${[...number.decimals].map(numbers.cardinal).join(' ')}`
  const sign = number.minus ? `${numbers.minus} ` : text.trim().startsWith('+') ? `${plus[primaryLanguage(language)] ?? 'plus'} ` : ''
  return `${sign}${number.whole === '' ? '' : numbers.cardinal(number.whole)}${decimals}`.replace(/ {2,}/gu, ' ').trim()
}

const plus: Readonly<Record<string, string>> = { es: 'más', it: 'più', pt: 'mais', pl: 'plus' }

/** A year of four figures as it is said: in English and German by hundreds where that is usual. */
export function yearWords(figures: string, { language, numbers }: Pick<Speaking, 'language' | 'numbers'>): string {
  const year = Number(figures)
  const primary = primaryLanguage(language)
  const [high, low] = [Math.floor(year / 100), year % 100]
  const word = (value: number): string => numbers.cardinal(String(value))
  if (primary === 'en' && year >= 1010 && year <= 9999 && !(year >= 2000 && year < 2010) && high % 10 !== 0 || primary === 'en' && year >= 2010 && year < 2100) {
    return low === 0 ? `${word(high)} hundred` : low < 10 ? `${word(high)} oh ${word(low)}` : `${word(high)} ${word(low)}`
  }
  if (primary === 'de' && year >= 1100 && year < 2000) return `${word(high)}hundert${low === 0 ? '' : word(low)}`
  return word(year)
}

function date(text: string, how: Speaking): string | null {
  const fields = text.split(/[\s./,–-]+/u).filter(field => field !== '')
  const order = how.format ?? (/^\d{4}$/u.test(fields[0] ?? '') ? 'ymd'.slice(0, fields.length) : null)
  if (order === null || !(dateFormats as readonly string[]).includes(order) || fields.length !== order.length) return null
  const field = (letter: string): string | null => order.includes(letter) ? fields[order.indexOf(letter)]! : null
  const [day, year] = [field('d'), field('y')]
  const month = monthOf(field('m'), how.language)
  if (day !== null && !(/^\d{1,2}$/u.test(day) && Number(day) >= 1 && Number(day) <= 31) || month === 0 || year !== null && !/^\d{2,4}$/u.test(year)) return null
  // With a day of 31 the formatter would run over into the next month.
  const parts = new Intl.DateTimeFormat(how.language, {
    timeZone: 'UTC', ...(day === null ? {} : { day: 'numeric' }), ...(month === null ? {} : { month: 'long' }), ...(year === null ? {} : { year: 'numeric' }),
  }).formatToParts(Date.UTC(2000, (month ?? 1) - 1, 1))
  const primary = primaryLanguage(how.language)
  return parts.map(part => {
    if (part.type === 'day') return dayWords(day!, how, month !== null && parts[0]?.type === 'day')
    if (part.type === 'year') return yearWords(year!, how)
    if (part.type === 'month') return primary === 'en' && day !== null && parts[0]?.type === 'day' ? `of ${part.value}` : part.value
    return part.value.replace(/\./gu, '')
  }).join('').replace(/\s+/gu, ' ').trim()
}

function dayWords(day: string, { language, numbers }: Speaking, first: boolean): string {
  const primary = primaryLanguage(language)
  const figures = String(Number(day))
  if (primary === 'en') return `${first ? 'the ' : ''}${numbers.ordinal(figures)}`
  if (primary === 'de') return `${numbers.ordinal(figures)}${first ? 'r' : ''}`
  if (figures === '1' && ['fr', 'it', 'pt'].includes(primary)) return numbers.ordinal(figures)
  return ['cs', 'da', 'ru', 'pl'].includes(primary) ? numbers.ordinal(figures) : numbers.cardinal(figures)
}

/** 1…12; null when there is none to be read, 0 when it is none. */
function monthOf(field: string | null, language: string): number | null {
  if (field === null) return null
  if (/^\d{1,2}$/u.test(field)) return Number(field) >= 1 && Number(field) <= 12 ? Number(field) : 0
  const wanted = field.toLocaleLowerCase(language)
  return monthNames(language).findIndex(both => both.some(name => name.toLocaleLowerCase(language) === wanted)) + 1
}

/** The names of the months beside a day, long and short, without full stops, as a language (BCP 47) has them. */
export function monthNames(language: string): string[][] {
  return Array.from({ length: 12 }, (_, month) => (['long', 'short'] as const).map(length =>
    new Intl.DateTimeFormat(language, { timeZone: 'UTC', month: length, day: 'numeric' }).formatToParts(Date.UTC(2000, month, 1)).find(part => part.type === 'month')!.value.replace(/\.$/u, '')))
}

const hourWords: Readonly<Record<string, readonly [one: string, many: string]>> = {
  de: ['Uhr', 'Uhr'], fr: ['heure', 'heures'], nl: ['uur', 'uur'], pt: ['hora', 'horas'], da: ['', ''],
}

function time(text: string, { language, numbers, format }: Speaking): string | null {
  const match = /^(\d{1,2})(?:[:.h](\d{2}))?(?:[:.](\d{2}))?(?: ?([ap])\.? ?(?:m\.?)?)?(?: ?(?:Uhr|h))?$/iu.exec(text.replace(/\s+/gu, ' '))
  if (match === null) return null
  const [, hourFigures = '', minute, second, half] = match
  const hour = Number(hourFigures)
  if (hour > (format === 'hms12' || half !== undefined ? 12 : 24) || Number(minute ?? 0) > 59 || Number(second ?? 0) > 59) return null
  const primary = primaryLanguage(language)
  const word = (figures: string): string => numbers.cardinal(String(Number(figures)))
  const name = hourWords[primary]?.[hour === 1 || primary === 'fr' && hour === 0 ? 0 : 1] ?? ''
  const hourWord = primary === 'de' && hour === 1 ? 'ein' : ['fr', 'es'].includes(primary) ? feminine(word(hourFigures), primary) : word(hourFigures)
  const minuteWord = minute === undefined ? '' : minute === '00' ? primary === 'en' && half === undefined ? hour > 12 || hour === 0 ? 'hundred' : "o'clock" : ''
    : primary === 'en' && minute.startsWith('0') ? `oh ${word(minute)}` : word(minute)
  const secondWord = second === undefined ? '' : word(second)
  const halfWord = half === undefined ? '' : `${half.toUpperCase()}M`
  return [hourWord, name, minuteWord, secondWord, halfWord].filter(each => each !== '').join(' ')
}

const currencySigns: Readonly<Record<string, string>> = { '£': 'GBP', '€': 'EUR', '$': 'USD', '¥': 'JPY', 'zł': 'PLN', 'Kč': 'CZK', '₽': 'RUB', 'CHF': 'CHF' }

function currency(text: string, how: Speaking): string | null {
  const sign = /^[^\d\s-]+/u.exec(text) ?? /[^\d\s]{1,8}$/u.exec(text)
  const code = how.format ?? (sign === null ? null : lookup(currencySigns, sign[0]) ?? (/^[A-Z]{3}$/u.test(sign[0]) ? sign[0] : null))
  const number = parseNumber(withoutTail(text.replace(/^[^\d-]+/u, ''), /\D/u), how.language)
  if (code === null || !/^[A-Za-z]{3}$/u.test(code) || number === null) return null
  const hundredths = number.decimals.padEnd(2, '0')
  if (hundredths.length !== 2) return null
  if (code.toUpperCase() === how.numbers.currency) return `${number.minus ? `${how.numbers.minus} ` : ''}${how.numbers.sum(`${number.whole}.${hundredths}`)}`
  const name = nameIn(formatOf(how.language, { style: 'currency', currency: code, currencyDisplay: 'name', maximumFractionDigits: 0 }), Number(number.whole), 'currency')
  const sum = [number.minus ? how.numbers.minus : '', counted(number.whole, name, how), name, Number(hundredths) === 0 ? '' : how.numbers.cardinal(String(Number(hundredths)))]
  return sum.filter(each => each !== '').join(' ')
}

/** A number before the name that it counts: in German, French and Spanish, one and what ends with it go with the name. */
export function counted(figures: string, name: string, { language, numbers }: Pick<Speaking, 'language' | 'numbers'>): string {
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

/** In Spanish hundreds agree as well (RAE, Nueva gramática, 21.2): doscientas abejas; not before millions. */
function feminine(words: string, language: string): string {
  return language === 'es' ? words.replace(/uno$/u, 'una').replace(/(?<=cient|quinient)os(?!.*mill[oó]n)/gu, 'as') : words.replace(/(?<![\p{L}])un$/u, 'une')
}

/** Signs of units, in lower case, with their names for formatters. */
export const units: Readonly<Record<string, string>> = {
  'mm': 'millimeter', 'cm': 'centimeter', 'm': 'meter', 'km': 'kilometer', 'in': 'inch', 'ft': 'foot', 'yd': 'yard', 'mi': 'mile',
  'g': 'gram', 'kg': 'kilogram', 'oz': 'ounce', 'lb': 'pound', 'ml': 'milliliter', 'l': 'liter', 'ha': 'hectare', 'ac': 'acre',
  's': 'second', 'min': 'minute', 'h': 'hour', 'd': 'day', '%': 'percent', '°': 'degree', '°c': 'celsius', '°f': 'fahrenheit',
  'km/h': 'kilometer-per-hour', 'mph': 'mile-per-hour', 'm/s': 'meter-per-second', 'kb': 'kilobyte', 'mb': 'megabyte', 'gb': 'gigabyte',
}

function unit(text: string, how: Speaking): string | null {
  const match = /^([-−–+]?[\d.,\s\u00a0\u202f]*\d)\s*([^\d\s].*)$/u.exec(text)
  const id = match === null ? undefined : lookup(units, match[2]!.trim().toLowerCase())
  const number = match === null ? null : cardinal(match[1]!, how)
  if (match === null || id === undefined || number === null) return null
  const parsed = parseNumber(match[1]!, how.language)!
  const name = nameIn(formatOf(how.language, { style: 'unit', unit: id, unitDisplay: 'long' }), Number(`${parsed.whole}.${parsed.decimals || '0'}`), 'unit')
  return `${parsed.decimals === '' && !parsed.minus ? counted(parsed.whole, name, how) : number} ${name}`
}

/** One and several of the unit with a sign, as a formatter has them; null for a sign that is not known. */
export function unitNamesOf(sign: string, language: string): readonly [one: string, many: string] | null {
  const id = lookup(units, sign.toLowerCase())
  if (id === undefined) return null
  const format = formatOf(language, { style: 'unit', unit: id, unitDisplay: 'long' })
  return [nameIn(format, 1, 'unit'), nameIn(format, 5, 'unit')]
}

const formats = new Map<string, Intl.NumberFormat>()

/** A formatter is dear to make: each is made once. */
function formatOf(language: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = `${language} ${options.currency ?? options.unit}`
  let format = formats.get(key)
  if (format === undefined) {
    format = new Intl.NumberFormat(language, options)
    formats.set(key, format)
  }
  return format
}

/** The name that a formatter puts beside a number, in the form that goes with the number. */
function nameIn(format: Intl.NumberFormat, value: number, type: 'currency' | 'unit'): string {
  return format.formatToParts(value).filter(part => part.type === type || part.type === 'percentSign').map(part => part.value).join(' ').trim()
}
