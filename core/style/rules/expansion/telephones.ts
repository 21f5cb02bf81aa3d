import { expansion, type Form, type Grammar } from './form'
import { postcodes } from './postcodes'
import { oneByOne, saidAs, word } from './say'

/** Behind a word that says what it is. */
const named = '(?<=(?<![\\p{L}])(?:[Tt]el(?:\\.|efon|éfono|ephone)?|[Pp]hone|[Ff]ax|[Cc]all|[Dd]ial|[Tt]él(?:\\.|éphone)?|[Tt]eléfono|[Rr]ufnummer|[Ee]xt(?:\\.|ension)?|[Dd]urchwahl)[.:]?[ \\u00a0])'

/** National and international forms (ITU-T E.123), with the groups as they are written. */
const number: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}]|\\d[., \\u00a0])(?:\\+\\d{1,3}(?:[ \\u00a0]?\\(0\\))?(?:[ \\u00a0./-]?\\(?\\d{1,5}\\)?){2,6}|\\(0\\d{1,5}\\)(?:[ \\u00a0./-]?\\d{2,8}){1,4}|0\\d{2,5}(?:[ \\u00a0/-]\\d{2,8}){1,4}|0\\d(?:[ \\u00a0.]\\d{2}){4}|00\\d{1,3}(?:[ \\u00a0/-]\\d{2,6}){2,5})(?![\\p{L}\\p{N}]|[.,-]\\d)`,
  say: ({ whole, grammar }) => groupsSaid(whole.replace(/\(0\)/u, ''), grammar),
}

/** North American forms: (555) 123-4567, 555-123-4567, 1-800-555-0199, 555-1234. */
const american: Form = {
  pattern: ({ primary }) => primary === 'en' ? '(?<![\\p{L}\\p{N}]|\\d[.,-])(?:(?:\\+?1[ .-])?(?:\\([2-9]\\d{2}\\)[ \\u00a0-]?|[2-9]\\d{2}[.-])\\d{3}[.-]\\d{4}|1-\\d{3}-\\d{3}-\\d{4}|[2-9]\\d{2}-\\d{4})(?![\\p{L}\\p{N}]|[.,-]\\d)' : null,
  say: ({ whole, grammar }) => groupsSaid(whole, grammar),
}

/** Spanish groups: 91 123 45 67, (91) 123 45 67, 612 345 678. */
const spanish: Form = {
  pattern: ({ primary }) => primary === 'es' ? '(?<![\\p{L}\\p{N}]|\\d[.,])(?:[6-9]\\d{2}(?:[ \\u00a0]\\d{3}){2}|[6-9]\\d{2}(?:[ \\u00a0]\\d{2}){3}|\\(?9\\d\\)?[ \\u00a0]\\d{3}(?:[ \\u00a0]\\d{2}){2})(?![\\p{L}\\p{N}]|[.,]\\d)' : null,
  say: ({ whole, grammar }) => groupsSaid(whole, grammar),
}

const behindName: Form = {
  pattern: () => `${named}\\d[\\d \\u00a0/-]{1,18}\\d(?![\\p{L}\\p{N}])`,
  say: ({ whole, grammar }) => groupsSaid(whole, grammar),
}

/** In French groups of two figures are said as numbers (common practice); elsewhere figures are said one by one. */
function groupsSaid(text: string, grammar: Grammar): string | null {
  if (grammar.primary !== 'fr' || !/^0\d(?:[ \u00a0.]\d{2}){4}$/u.test(text)) return saidAs(text, 'telephone', grammar)
  return text.split(/[ \u00a0.]/u).map(pair => pair.startsWith('0') ? oneByOne(pair, grammar) : word(pair, grammar)).join(', ')
}

/** Numbers of books and serials (ISO 2108, ISO 3297): figures in their groups, the last may be X. */
const isbn: Form = {
  pattern: () => '(?<=(?<!\\p{L})(?:ISBN|ISSN|ISBN-1[03]|EAN|DOI|IBAN|NSN)(?:-1[03])?:?[ \\u00a0])\\d[\\d \\u00a0–-]{2,20}[\\dX](?![\\p{L}\\p{N}])',
  say: ({ whole, grammar }) => (whole.match(/\d+|X/gu) ?? []).map(each => each === 'X' ? 'X' : oneByOne(each, grammar)).join(', '),
}

export const telephones = expansion([isbn, ...postcodes, american, number, spanish, behindName])
