import { primaryLanguage } from './abbreviations'
import { lookup } from '../lookup'
import { madeOnce } from '../made-once'
import { cardinal, counted, feminine, inPairs, plus, quantity, type Numbered } from './counted'
import { currencyNamesOf } from './formatter-names'
import { moneySaid } from './money'
import { monthNames } from './months'
import { decimalSign, numberWords, parseNumber, type NumberWords } from './numbers'
import { unitNames } from './unit-names'
import { ruleWords, type RuleWords } from './words'

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
export interface Speaking extends Numbered {
  readonly format: string | undefined
}

const speakers: Readonly<Record<SayAsKind, (text: string, how: Speaking) => string | null>> = {
  characters: text => [...text].join(' '),
  cardinal,
  ordinal: (text, { numbers }) => {
    const figures = /^(\d{1,15})(?:st|nd|rd|th|\.|\.?[ºª]|e|er|ème|de|ste)?$/iu.exec(text.replace(/(?<=\d)[,.\s](?=\d{3}\b)/gu, ''))?.[1]
    return figures === undefined || /^0+$/u.test(figures) ? null : numbers.ordinal(figures)
  },
  digits: (text, { numbers, language }) => /\d/u.test(text) ? figuresOf(withPoint(text, numbers, language), numbers) : null,
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

/** With the word for a decimal sign, where there is one and what stands before it is no group of thousands. */
function withPoint(text: string, { point }: NumberWords, language: string): string {
  const sign = decimalSign(language)
  return text.split(sign).length === 2 ? text.replace(new RegExp(`(?<=\\d)[${sign}](?=\\d)`, 'u'), ` ${point} `) : text
}

function figuresOf(text: string, numbers: NumberWords): string {
  return text.replace(/[\s.,/()–-]+/gu, ' ').trim().split(' ').map(run => /^\p{L}+$/u.test(run) && run.length > 1 ? run : [...run].map(sign => /\d/u.test(sign) ? numbers.cardinal(sign) : sign).join(' ')).join(' ')
}

/** A year as it is said: in English and German by hundreds where that is usual; of two figures the nought is said. */
export function yearWords(figures: string, { language, numbers }: Numbered): string {
  const year = Number(figures)
  const primary = primaryLanguage(language)
  const [high, low] = [Math.floor(year / 100), year % 100]
  const word = (value: number): string => numbers.cardinal(String(value))
  if (/^0\d$/u.test(figures)) return primary === 'en' ? `oh ${low === 0 ? 'oh' : word(low)}` : `${word(0)} ${word(low)}`
  // The first years of a millennium are numbers, the first of the eleventh and the twenty-first century as well.
  if (primary === 'en' && year >= 1000 && year <= 9999 && (high % 10 !== 0 || high <= 20 && low >= 10)) return inPairs(figures, { numbers })
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
  const parts = dateFormat(`${how.language} ${order}`).formatToParts(Date.UTC(2000, (month ?? 1) - 1, 1))
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

/** Formatters of dates, by the language and the fields in them. */
const dateFormat = madeOnce(languageAndFields => {
  const [language, fields = ''] = languageAndFields.split(' ')
  return new Intl.DateTimeFormat(language, {
    timeZone: 'UTC', ...(fields.includes('d') ? { day: 'numeric' } : {}), ...(fields.includes('m') ? { month: 'long' } : {}), ...(fields.includes('y') ? { year: 'numeric' } : {}),
  })
})

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
  const words = ruleWords(how.language)
  const sum = /\.?\d(?:[\d.,'’\s]*\d)?/u.exec(text)
  if (sum === null) return null
  const [before, behind] = [text.slice(0, sum.index), text.slice(sum.index + sum[0].length).replace(/^,[-–—]/u, '').trim()]
  const sign = /[-−–+]/u.exec(before)?.[0] ?? ''
  const first = before.replace(/[-−–+\s]/gu, '')
  if (/\d/u.test(behind)) return null
  const figures = `${sign}${sum[0]}`
  const [magnitude, last] = words === null ? ['', behind] : dividedRest(behind, words)
  if (first !== '' && last !== '') return null
  const code = how.format ?? (first || last)
  if (words === null) return plainSum(figures, code, how)
  const isOwn = lookup(words.currencies, code) !== undefined
  const known = isOwn ? code : lookup(currencySigns, code) ?? (/^[A-Za-z]{3}$/u.test(code) ? code.toUpperCase() : null)
  return known === null ? null : moneySaid({ figures, code: known, magnitude }, { language: how.language, primary: primaryLanguage(how.language), numbers: how.numbers, words })
}

/** What stands behind a sum: a short form of a large number, and the sign of the currency. */
function dividedRest(rest: string, { magnitudes }: RuleWords): readonly [magnitude: string, code: string] {
  const magnitude = Object.keys(magnitudes).sort((a, b) => b.length - a.length).find(each => rest === each || rest.startsWith(`${each} `) || rest.startsWith(each) && /^[^\p{L}]/u.test(rest.slice(each.length)))
  return magnitude === undefined ? ['', rest] : [magnitude, rest.slice(magnitude.length).trim()]
}

/** In a language without words for currencies of its own. */
function plainSum(figures: string, sign: string, how: Speaking): string | null {
  const code = lookup(currencySigns, sign) ?? sign
  const number = parseNumber(figures, how.language)
  const hundredths = number?.decimals.padEnd(2, '0') ?? ''
  const names = currencyNamesOf(code, how.language)
  if (number === null || names === null || hundredths.length !== 2) return null
  if (code.toUpperCase() === how.numbers.currency) return `${number.minus ? `${how.numbers.minus} ` : ''}${how.numbers.sum(`${number.whole}.${hundredths}`)}`
  const name = names[Number(number.whole) === 1 ? 0 : 1]
  const sum = [number.minus ? how.numbers.minus : '', counted(number.whole, name, how), name, Number(hundredths) === 0 ? '' : how.numbers.cardinal(String(Number(hundredths)))]
  return sum.filter(each => each !== '').join(' ')
}

function unit(text: string, how: Speaking): string | null {
  const match = /^([-−–+]?[\d.,\s\u00a0\u202f]*\d)\s*([^\d\s].*)$/u.exec(text)
  const names = match === null ? null : unitNames(match[2]!.trim(), { language: how.language, words: ruleWords(how.language) })
  return names === null ? null : quantity(match![1]!, names, how)
}
