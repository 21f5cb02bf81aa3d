import { oneOf, type Form, type Grammar } from './form'
import { word } from './say'

/** The number of one of several books of a name: das erste Buch Mose, la première lettre aux Corinthiens. */
function nth(number: number, name: string, { primary }: Grammar): string {
  const index = number - 1
  switch (primary) {
    case 'de': return `${['Erste', 'Zweite', 'Dritte', 'Vierte', 'Fünfte'][index]!}${name.startsWith('Buch') ? 's' : 'r'}`
    case 'fr': return name.startsWith('lettre') ? ['première', 'deuxième', 'troisième'][index]! : ['premier', 'deuxième', 'troisième'][index]!
    default: return name.startsWith('carta') ? ['primera', 'segunda', 'tercera'][index]! : ['primer', 'segundo', 'tercer'][index]!
  }
}

/** Chapter and verse of the Bible with a comma between them, as German, French and Spanish write them: 1 Kor 13,4; Jn 3, 16-18. */
export const verse: Form = {
  needs: /\d/u,
  pattern: ({ primary, words }) => primary === 'en' || Object.keys(words.books).length === 0
    ? null
    : `(?<![\\p{L}\\p{N}.])(?:(?<number>[1-5])\\.?[ \\u00a0])?(?<book>${oneOf(Object.keys(words.books))})\\.?[ \\u00a0](?<chapter>\\d{1,3})(?:[,:][ \\u00a0]?(?<first>\\d{1,3})(?:[–-](?<last>\\d{1,3}))?)?(?![\\p{N}]|[.,]\\d)`,
  say: ({ group, grammar }) => {
    const name = grammar.words.books[group('book')]!
    if (group('first') === '' && !/^(?:Psalm|Psaume|Salmo)$/u.test(name)) return null
    const isNumbered = /^(?:Buch|lettre|livre|carta|libro|Korinther|Thessalonicher|Timotheus|Petrus)/u.test(name)
    if (isNumbered !== (group('number') !== '') || Number(group('number')) > (grammar.primary === 'de' ? 5 : 3)) return null
    const book = isNumbered ? `${nth(Number(group('number')), name, grammar)} ${name}` : name
    const last = group('last') === '' ? '' : ` ${grammar.words.to} ${word(group('last'), grammar)}`
    const first = group('first') === '' ? '' : ` ${word(group('first'), grammar)}`
    return `${book} ${word(group('chapter'), grammar)}${first}${last}`
  },
}
