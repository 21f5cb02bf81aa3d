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
  say: ({ whole, grammar }) => timeSaid(whole, grammar),
}

/** In French: open 24h/24, 7j/7. */
const allDay: Form = {
  pattern: ({ primary }) => primary === 'fr' ? `${begins}(?:24[ \\u00a0]?h[ \\u00a0]?/[ \\u00a0]?24|7[ \\u00a0]?j[ \\u00a0]?/[ \\u00a0]?7)(?![\\p{L}\\p{N}])` : null,
  say: ({ whole }) => whole.startsWith('24') ? 'vingt-quatre heures sur vingt-quatre' : 'sept jours sur sept',
}

/** Hours by hundreds, as services write them: 0830 hours. */
const hundreds: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<time>[01]\\d${minutes}|2[0-3]${minutes})(?= (?:hours|hrs)\\b)` : null,
  say: ({ whole, grammar }) => {
    const [high, low] = [whole.slice(0, 2), whole.slice(2)]
    return `${high.startsWith('0') ? `oh ${word(high, grammar)}` : word(high, grammar)} ${low === '00' ? 'hundred' : inPairs(low, grammar)}`
  },
}

export const times = expansion([allDay, verse, range, hundreds, one])
