import { inPairs } from '../../../language/counted'
import { begins, dash, expansion, type Form, type Grammar } from './form'
import { behindRatioWord } from './ratios'
import { saidAs, word } from './say'

const minutes = '[0-5]\\d'
const hour = '(?:[01]?\\d|2[0-4])'
const half = '(?:\\s?(?:[ap]\\.m\\.|[ap]m\\b))'

/** Times of a language; each by itself is one. */
function timeOf({ primary }: Grammar): string {
  switch (primary) {
    case 'en': return `(?:${hour}[:.]${minutes}(?::${minutes})?${half}|${hour}:${minutes}(?::${minutes})?(?![\\d:])|(?:1[0-2]|0?[1-9])${half})`
    case 'de': return `(?:${hour}[:.]${minutes}(?::${minutes})?\\s?Uhr\\b|${hour}:${minutes}(?::${minutes})?(?![\\d:])|${hour}\\sUhr\\b)`
    case 'fr': return `(?:${hour}[ \\u00a0\\u202f]?h(?:[ \\u00a0\\u202f]?${minutes})?(?![\\p{L}\\d]|[ \\u00a0\\u202f]?min)|${hour}:${minutes}(?::${minutes})?(?![\\d:]))`
    default: return `(?:${hour}:${minutes}(?::${minutes})?(?![\\d:])(?:\\s?(?:h\\b|horas\\b))?|${hour}\\.${minutes}\\s?h\\b)`
  }
}

function timeSaid(text: string, grammar: Grammar): string | null {
  return saidAs(text.replace(/(?<=\d)[ \u00a0\u202f]?h[ \u00a0\u202f]?(?=\d)/u, 'h').replace(/\s?horas$/u, ''), 'time', grammar)
}

/** Chapter and verse are no time: John 3:16–18, Genesis 1:1. */
const verse: Form = {
  needs: /:/u,
  pattern: ({ words }) => Object.keys(words.books).length === 0 ? null : `(?<=(?<!\\p{L})(?:${[...new Set(Object.values(words.books))].join('|')})[ \\u00a0])(?<chapter>\\d{1,3}):(?<verse>\\d{1,3})(?:[–-](?<last>\\d{1,3}))?(?![\\d:])`,
  say: ({ group, grammar }) => `${word(group('chapter'), grammar)} ${word(group('verse'), grammar)}${group('last') === '' ? '' : ` ${grammar.words.to} ${word(group('last'), grammar)}`}`,
}

/** From one time to another; what the first does not say, the second says for both: 9–11 am, 9–17 Uhr, 4:30–5:30. */
const range: Form = {
  pattern: grammar => {
    const bareHour = grammar.primary === 'en' ? '(?:1[0-2]|0?[1-9])' : hour
    const says = { en: half, de: '(?:\\sUhr\\b)', fr: '(?:[ \\u00a0\\u202f]?h)', es: '(?:\\s?h\\b)' }[grammar.primary]!
    return `${begins}(?:(?<first>${timeOf(grammar)})|(?<bare>${bareHour}(?:[:.]${minutes})?(?=${dash}(?:${bareHour})(?:[:.]${minutes})?${says})))${dash}(?<last>${timeOf(grammar)}|${bareHour}(?![\\d:.,]\\d|\\d)(?:${grammar.primary === 'es' ? '\\s?h\\b' : ''}))`
  },
  ignoreCase: true,
  say: ({ group, grammar }) => {
    const { primary, words } = grammar
    const bare = group('bare')
    const first = bare !== '' ? /[:.]/u.test(bare) ? timeSaid(bare, grammar) : primary === 'fr' || primary === 'es' ? timeSaid(`${bare}${primary === 'fr' ? 'h' : ':00'}`, grammar) : word(bare, grammar) : timeSaid(group('first'), grammar)
    const last = /^\d+(?:\s?h)?$/u.test(group('last')) && primary !== 'fr' ? word(Number.parseInt(group('last'), 10), grammar) : timeSaid(group('last'), grammar)
    if (first === null || last === null) return null
    // The hour is named once: neun bis siebzehn Uhr.
    return `${primary === 'de' && bare === '' && first.endsWith(' Uhr') && !group('first').includes('Uhr') ? first.slice(0, -' Uhr'.length) : first} ${words.to} ${last}`
  },
}

const one: Form = {
  pattern: grammar => `${begins}(?<!${behindRatioWord(grammar)})${timeOf(grammar)}`,
  ignoreCase: true,
  say: ({ whole, after, grammar }) => {
    const said = timeSaid(whole, grammar)
    // Twelve noon, not twelve o’clock noon.
    return /^ (?:noon|midnight)\b/u.test(after) ? said?.replace(/ o[’']clock$/u, '') ?? null : said
  },
}

/** In French: open 24h/24, 7j/7. */
const allDay: Form = {
  needs: /h|j/u,
  pattern: ({ primary }) => primary === 'fr' ? `${begins}(?:24[ \\u00a0]?h[ \\u00a0]?/[ \\u00a0]?24|7[ \\u00a0]?j[ \\u00a0]?/[ \\u00a0]?7)(?![\\p{L}\\p{N}])` : null,
  say: ({ whole }) => whole.startsWith('24') ? 'vingt-quatre heures sur vingt-quatre' : 'sept jours sur sept',
}

/** Hours by hundreds, as services write them: 0830 hours. */
const hundreds: Form = {
  needs: /\d (?:hours|hrs)/u,
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<time>[01]\\d${minutes}|2[0-3]${minutes})(?= (?:hours|hrs)\\b)` : null,
  say: ({ whole, grammar }) => {
    const [high, low] = [whole.slice(0, 2), whole.slice(2)]
    return `${high.startsWith('0') ? `oh ${word(high, grammar)}` : word(high, grammar)} ${low === '00' ? 'hundred' : inPairs(low, grammar)}`
  },
}

/** An hour behind its article, in the feminine: a la 1, a las 21 (RAE, Ortografía). */
const spanishHour: Form = {
  pattern: ({ primary }) => primary === 'es' ? `(?<=(?<!\\p{L})[Ll]a )1(?!\\.?[ºª])(?=[,;.)]|$| (?:de la|del|en punto|y|menos)(?!\\p{L}))(?![.,]\\d)|(?<=(?<!\\p{L})(?:[Aa]|[Dd]e|[Dd]esde|[Hh]asta|[Ss]obre) las )21(?![\\p{L}\\p{N}:]|[.,]\\d)` : null,
  say: ({ whole }) => whole === '1' ? 'una' : 'veintiuna',
}

/** Before and after noon in Spanish: 8 a. m., 7:45 p. m. (RAE, Ortografía); said as the part of the day. */
const spanishHalf: Form = {
  needs: /m\./u,
  pattern: ({ primary }) => primary === 'es' ? `${begins}(?<hour>1[0-2]|0?[1-9])(?:[:.](?<minutes>${minutes}))?\\s?(?<half>[ap])\\.?\\s?m\\.(?!\\p{L})` : null,
  ignoreCase: true,
  say: ({ group, grammar }) => {
    const [hour, past] = [Number(group('hour')), group('minutes')]
    const isMorning = group('half').toLowerCase() === 'a'
    const part = isMorning ? hour === 12 ? 'de la noche' : 'de la mañana' : hour === 12 ? 'del mediodía' : hour >= 8 ? 'de la noche' : 'de la tarde'
    return `${hour === 1 ? 'una' : word(hour, grammar)}${Number(past) === 0 ? '' : ` ${word(past, grammar)}`} ${part}`
  },
}

export const times = expansion([spanishHalf, spanishHour, allDay, verse, range, hundreds, one])
