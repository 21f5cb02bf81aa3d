import { monthNames } from '../../../language/months'
import { begins, dash, expansion, free, wordsOf, type Form, type Found, type Grammar } from './form'
import { germanEnding, germanRowOf, rowSaid } from './german'
import { capitalized, ordinal, saidAs, word } from './say'

/** Month names of a language, long and short, as a pattern. */
function monthsOf(language: string): string {
  return [...new Set(monthNames(language).flat())].sort((a, b) => b.length - a.length).join('|')
}

const day = '(?:0?[1-9]|[12]\\d|3[01])'
const year = '\\d{4}'
const ending = '(?:st|nd|rd|th)?'

/** A date with the name of its month, in the orders of a language. */
function worded({ language, primary }: Grammar): string {
  const month = monthsOf(language)
  switch (primary) {
    case 'en': return `(?<dmy>${day}${ending}(?: of)? (?:${month})\\b\\.?(?:,? ${year}\\b)?)|(?<mdy>(?:${month})\\.? ${day}${ending}\\b(?!:|[.,]\\d|[–—-]\\d)(?:,? ${year}\\b)?)|(?<my>(?:${month})\\.? ${year}\\b)`
    case 'de': return `(?<dmy>${day}\\. ?(?:${month})\\b\\.?(?: ${year}\\b)?)|(?<my>(?:${month})\\.? ${year}\\b)`
    case 'fr': return `(?<dmy>(?:1er|${day}) (?:${month})(?!\\p{L})\\.?(?: ${year}\\b)?)|(?<my>(?:${month}) ${year}\\b)`
    default: return `(?<dmy>(?:1\\.?[º°o]|${day}) (?:de (?:${month})\\b\\.?(?: (?:de |del )?${year}\\b)?|(?:${month})\\.?(?: (?:de |del )?${year}\\b|(?<=\\p{Ll}\\.))))|(?<my>(?:${month})\\.? (?:de |del )?${year}\\b)`
  }
}

const bare = (value: string): string => value.replace(/(?<=\d)(?:st|nd|rd|th|er|\.?[º°o])(?![\p{L}\d])/giu, '').replace(/ (?:of|de|del)(?= )/giu, '').replace(/(?<=\p{L})\./gu, '')
const fieldsOf = (value: string): number => value.split(/[\s./,-]+/u).length

/** What stands before a date decides about its article and its ending. */
function fitted(words: string, { before, grammar: { primary } }: Found): string {
  if (primary === 'en' && /(?:^|\s)the\s$/iu.test(before)) return words.replace(/^the /u, '')
  return primary === 'de' ? germanEnding(words, before) : words
}

/** May and March are verbs as well: about 5 may fall. */
const isVerb = ({ whole, grammar: { primary } }: Found): boolean => primary === 'en' && /(?<!\p{L})(?:may|march)(?!\p{L})/u.test(whole)

/** In English a day that is written before its month is said before it, whatever the country's own order. */
function inOrder(value: string, order: string, found: Found): string | null {
  if (isVerb(found)) return null
  const isWorded = /\p{L}/u.test(value) && order.startsWith('d') && found.grammar.primary === 'en'
  const words = saidAs(value, 'date', isWorded ? { language: 'en-GB' } : found.grammar, order)
  if (words === null) return null
  // Who writes the first of a month in Spanish as an ordinal says it so.
  return fitted(/^1\.?[º°o]/u.test(found.whole) ? words.replace(/^uno(?= )/u, 'primero') : words, found)
}

const isAmerican = ({ language }: Grammar): boolean => language === 'en-US' || language === 'en'

const iso: Form = {
  needs: /-\d/u,
  pattern: () => `${begins}${year}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\\d|3[01])(?![\\d-])`,
  say: found => inOrder(found.whole, 'ymd', found),
}

/** What stands before a day in figures. */
const dayCue = /(?:(?:^|[^\p{L}])(?:am|vom|bis|zum|ab|seit|den|le|du|au|el|del|al|on|by|since|until|dated)|,)\s$/iu

/** What is no day and month in the usual order may be one in the other. */
const inFigures: Form = {
  needs: /\d/u,
  pattern: () => `${begins}\\d{1,2}(?<mark>[./-])\\d{1,2}\\k<mark>(?:\\d{4}|\\d{2})(?![\\d./-]\\d)(?!\\d)`,
  say: found => {
    // 5-10-15 is a row of numbers.
    if (/^\d{1,2}-\d{1,2}-\d{2}$/u.test(found.whole) && !/^\d{2}-\d{2}-/u.test(found.whole)) return null
    // 5.6.10 is a section or a version more often, unless a word before it says that it is a day.
    if (/^\d{1,2}\.\d{1,2}\.\d{2}$/u.test(found.whole) && !/^\d{2}\.\d{2}\./u.test(found.whole) && !dayCue.test(found.before)) return null
    const order = isAmerican(found.grammar) ? 'mdy' : 'dmy'
    return inOrder(found.whole, order, found) ?? inOrder(found.whole, order === 'dmy' ? 'mdy' : 'dmy', found)
  },
  // Day and month could change places.
  isWeak: ({ whole }) => {
    const [first, second] = whole.split(/[./-]/u).map(Number)
    return first !== second && first! <= 12 && second! <= 12
  },
}

/** Day and month alone, behind a word that says that it is a day; only where no more than one order makes one: le 24/12. */
const withoutYear: Form = {
  needs: /\//u,
  pattern: () => `${begins}(?<first>\\d{1,2})/(?<second>\\d{1,2})(?![\\d/]|[.,]\\d)`,
  say: found => {
    const [first, second] = [Number(found.group('first')), Number(found.group('second'))]
    if (!dayCue.test(found.before) || /,\s$/u.test(found.before) || (first > 12) === (second > 12)) return null
    return inOrder(found.whole, first > 12 ? 'dm' : 'md', found)
  },
}

function wordedDate(found: Found, { dmy, mdy, my }: Readonly<Record<'dmy' | 'mdy' | 'my', string>>): string | null {
  const value = bare(dmy || mdy || my)
  const order = my !== '' ? 'my' : (mdy !== '' ? 'mdy' : 'dmy').slice(0, fieldsOf(value))
  return inOrder(value, order, found)
}

const inWords: Form = {
  needs: /\d/u,
  pattern: grammar => `${free}(?:${worded(grammar)})(?!\\d)`,
  ignoreCase: true,
  say: found => wordedDate(found, { dmy: found.group('dmy'), mdy: found.group('mdy'), my: found.group('my') }),
}

/** Two days of one month: 3–5 May, May 3–5, 3 and 4 May, 3.–5. Mai; said as two days and their month. */
const days: Form = {
  needs: /\d/u,
  pattern: ({ language, primary }) => {
    const month = monthsOf(language)
    const two = (mark: string, between = dash): string => `(?<first>${day})${mark}(?:${between})(?<last>${day})${mark}`
    switch (primary) {
      case 'en': return `${free}(?:${two(ending, `${dash}|(?<link> (?:to|and|or|until) )`)}(?: of)? (?<month>${month})\\b\\.?(?:,? (?<year>${year})\\b)?|(?<monthFirst>${month})\\.? (?<first2>${day})${ending}(?:${dash}|(?<link2> (?:to|and|or|until) ))(?<last2>${day})${ending}(?![:\\d.,]\\d|\\d)(?:,? (?<year2>${year})\\b)?)`
      case 'de': return `${begins}(?<first>${day})\\.?(?:${dash}|(?<stroke>/))(?<last>${day})\\. ?(?<month>${month})\\b\\.?(?: (?<year>${year})\\b)?`
      case 'fr': return `${begins}(?<first>1er|${day})${dash}(?<last>${day}) (?<month>${month})(?!\\p{L})(?: (?<year>${year})\\b)?`
      default: return `${begins}${two('')} de (?<month>${month})\\b(?: (?:de|del) (?<year>${year})\\b)?`
    }
  },
  ignoreCase: true,
  say: found => {
    const { group, grammar } = found
    const [first, last] = [group('first') || group('first2'), group('last') || group('last2')]
    const [month, own] = [group('month') || group('monthFirst'), group('year') || group('year2')]
    const order = group('monthFirst') === '' ? 'dmy' : 'mdy'
    const date = (dayOf: string): string | null => saidAs(`${order === 'dmy' ? `${dayOf} ${month}` : `${month} ${dayOf}`}${own === '' ? '' : ` ${own}`}`, 'date', order === 'dmy' && grammar.primary === 'en' ? { language: 'en-GB' } : grammar, own === '' ? order.slice(0, 2) : order)
    const whole = date(String(Number(last)))
    if (whole === null || isVerb(found) || Number.parseInt(first, 10) >= Number(last)) return null
    const { primary, words } = grammar
    const start = primary === 'en' || primary === 'de' ? ordinal(first, grammar) : Number.parseInt(first, 10) === 1 && primary === 'fr' ? 'premier' : word(Number.parseInt(first, 10), grammar)
    if (primary === 'de') return `${germanEnding(`${start}r`, found.before)} ${group('stroke') === '' ? words.to : words.and} ${germanEnding(whole, found.before)}`
    if (primary !== 'en') return `${start} ${words.to} ${whole}`
    // In English the second day has the article of the first, wherever the month stands.
    const [end, link] = [ordinal(last, grammar), (group('link') || group('link2')).trim() || words.to]
    return whole.includes(`the ${end}`) ? fitted(whole.replace(`the ${end}`, `the ${start} ${link} the ${end}`), found) : whole.replace(end, `${start} ${link} ${end}`)
  },
}

/** German days in a row before their month: am 1., 2. und 3. Mai. */
const germanRow: Form = {
  needs: /\d\.,? (?:\d|und|oder|sowie)/u,
  pattern: ({ language, primary }) => primary === 'de' ? `${begins}(?<row>${germanRowOf(day)})(?<date>${day}\\. ?(?:${monthsOf(language)})\\b\\.?(?: ${year}\\b)?)` : null,
  say: found => {
    const date = inOrder(found.group('date'), fieldsOf(found.group('date')) === 3 ? 'dmy' : 'dm', found)
    return date === null ? null : `${rowSaid(found.group('row'), each => germanEnding(`${ordinal(each, found.grammar)}r`, found.before))}${date}`
  },
}

/** From one date to another: 3 May – 5 June 2021. */
const span: Form = {
  needs: /\d/u,
  pattern: grammar => {
    const second = worded(grammar).replace(/\?<(\w+)>/gu, '?<$12>')
    return `${free}(?:${worded(grammar)})${dash}(?:${second})(?!\\d)`
  },
  ignoreCase: true,
  say: found => {
    const { group, grammar } = found
    const first = wordedDate(found, { dmy: group('dmy'), mdy: group('mdy'), my: group('my') })
    const second = wordedDate({ ...found, before: grammar.primary === 'de' ? found.before : ' ' }, { dmy: group('dmy2'), mdy: group('mdy2'), my: group('my2') })
    return first === null || second === null ? null : `${first} ${grammar.words.to} ${second}`
  },
}

/** The days of the week from Monday. */
function weekdays(language: string, length: 'long' | 'short'): string[] {
  const format = new Intl.DateTimeFormat(language, { weekday: length, timeZone: 'UTC' })
  // The first of January 2001 was a Monday.
  return Array.from({ length: 7 }, (_, index) => format.format(Date.UTC(2001, 0, index + 1)).replace(/\.$/u, ''))
}

/** Between months or days of the week: May–June, Mon–Fri. */
const named: Form = {
  needs: /[–—-]/u,
  pattern: ({ language }) => {
    const name = `(?:${[...monthNames(language).map(([long]) => long!), ...weekdays(language, 'long')].join('|')})`
    return `(?=[ \\u00a0]?[–—-])(?<=(?<!\\p{L})${name})${dash}(?=${name}(?!\\p{L}))`
  },
  say: ({ grammar: { words } }) => ` ${words.to} `,
}

/** Short names of two days of the week: Mo–Fr, Mon–Fri. */
const shortDays: Form = {
  needs: /[–—-]/u,
  pattern: ({ language }) => {
    const names = weekdays(language, 'short')
    const short = wordsOf([...names, ...names.map(capitalized)], { begin: '(?<!\\p{L})' })
    return `(?<first>${short})\\.?${dash}(?<last>${short})\\.?(?!\\p{L})`
  },
  say: ({ group, grammar: { language, words } }) => {
    const [short, long] = [weekdays(language, 'short'), weekdays(language, 'long')]
    const said = (name: string): string => {
      const index = short.findIndex(each => each === name || capitalized(each) === name)
      return short[index] === name ? long[index]! : capitalized(long[index]!)
    }
    return `${said(group('first'))} ${words.to} ${said(group('last'))}`
  },
}

/** German days and months in figures, without a year or with spaces: am 1.5., 24.12., 1. 5. 2024. */
const germanFigures: Form = {
  needs: /\.\s?\d/u,
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<day>${day})\\. ?(?<month>0?[1-9]|1[0-2])\\.(?: ?(?<year>\\d{4}))?(?!\\d|\\.\\d)` : null,
  say: found => {
    const { group, before, whole } = found
    const isSure = group('year') !== '' || /^\d{2}\.\d{2}\./u.test(whole) || Number(group('day')) > 12 || /(?:^|[^\p{L}])(?:am|vom|bis|zum|den|dem|ab|seit)\s$/iu.test(before)
    return isSure ? inOrder(`${group('day')} ${group('month')}${group('year') === '' ? '' : ` ${group('year')}`}`, group('year') === '' ? 'dm' : 'dmy', found) : null
  },
  isWeak: ({ group }) => group('year') === '',
}

export const dates = expansion([iso, span, days, germanRow, inFigures, withoutYear, germanFigures, inWords, shortDays, named], { needs: /\d|\p{L}[ \u00a0]?[–—-][ \u00a0]?\p{L}/u })
