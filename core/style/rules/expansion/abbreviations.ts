import { lookup } from '../../../lookup'
import { openingWords } from '../../../language/abbreviations'
import { expansion, oneOf, wordsOf, type Form, type Found } from './form'
import { capitalized } from './say'
import { verse } from './verses'

/** What may stand behind the name of a street, though it begins with a capital letter. */
const behindStreet = /^(?:Apt|Apartment|Suite|Unit|Floor|North|South|East|West|Northeast|Northwest|Southeast|Southwest|NE|NW|SE|SW)\b/u

/** The word behind, when it begins with a capital letter and is none that usually opens a sentence. */
function nameBehind({ after, grammar }: Found): string | null {
  const next = /^[ \u00a0](\p{Lu}[\p{L}’'-]*)/u.exec(after)?.[1]
  return next === undefined || openingWords(grammar.language).has(next) ? null : next
}

const isBehindName = ({ before }: Found): boolean => /(?:\p{Lu}[\p{L}’'-]{0,40}|\d(?:st|nd|rd|th)|,)[ \u00a0]$/u.test(before)

/** Before a number: No. 7, p. 4, Op. 27, b. 1950. */
const numbered: Form = {
  needs: /\d|[.º°] ?[IVXLCivxl]/u,
  pattern: ({ words }) => `${wordsOf(new Set(Object.keys(words.beforeNumber).flatMap(each => /^\p{Ll}{2}/u.test(each) ? [each, capitalized(each)] : [each])))}(?=[ \\u00a0\\u202f]?(?:\\d|[IVXLC]{2,}\\b|[ivxl]{2,}\\b|[VX]\\b|I(?=[.,;:)]|$)))`,
  say: ({ whole, after, grammar: { words } }) => {
    const name = lookup(words.beforeNumber, whole) ?? capitalized(words.beforeNumber[whole.replace(/^./u, first => first.toLowerCase())]!)
    return `${/^[ \u00a0\u202f]?\d+[–-]\d/u.test(after) ? lookup(several, name) ?? name : name}${/^\d/u.test(after) ? ' ' : ''}`
  },
}

/** Before a range there are several: S. 12–15. */
const several: Readonly<Record<string, string>> = {
  page: 'pages', chapter: 'chapters', section: 'sections', article: 'articles', volume: 'volumes', number: 'numbers', Nummer: 'Nummern', Band: 'Bände', Tabelle: 'Tabellen', chapitre: 'chapitres', numéro: 'numéros', tome: 'tomes',
  capítulo: 'capítulos', artículo: 'artículos', número: 'números', tomo: 'tomos', volumen: 'volúmenes', Seite: 'Seiten', página: 'páginas', line: 'lines', column: 'columns', Abbildung: 'Abbildungen', figure: 'figures', figura: 'figuras',
}

/** Pages behind the one that is named, in German and English: S. 5 f., S. 5 ff. */
const following: Form = {
  needs: /\d[ \u00a0]?ff?(?!\p{L})/u,
  pattern: ({ primary }) => primary === 'de' ? '(?<=(?:S\\.|Seiten?|§§?|Art\\.|Artikel|Abs\\.|Absatz|Kap\\.|Nr\\.)[ \\u00a0]\\d{1,4})[ \\u00a0]?ff?\\.(?!\\p{L})' : primary === 'en' ? '(?<=(?:pp?\\.|pages?)[ \\u00a0]\\d{1,4})[ \\u00a0]?ff\\.?(?![\\p{L}\\p{N}])' : null,
  say: ({ whole, grammar: { primary } }) => primary === 'en' ? ' and following' : whole.includes('ff') ? ' fortfolgende' : ' folgende',
}

/** Books of the Bible before chapter and verse: 1 Cor. 13:4. */
const book: Form = {
  needs: /\d/u,
  pattern: ({ words, primary }) => primary !== 'en' ? null : `(?<![\\p{L}\\p{N}.])(?:(?<number>[123]|I{1,3})[ \\u00a0])?(?<book>${oneOf(Object.keys(words.books))})(?=[ \\u00a0]\\d{1,3}(?::\\d|\\b))`,
  say: ({ group, after, grammar: { words } }) => {
    const [number, name] = [group('number'), group('book')]
    const isAbbreviated = words.books[name] !== name
    if (number === '' && !/^[ \u00a0]\d{1,3}:\d/u.test(after)) return isAbbreviated && name.endsWith('.') && name !== 'Col.' && name !== 'Rev.' && name !== 'Dan.' && name !== 'Sam.' ? words.books[name]! : null
    const ordinal = number === '' ? '' : `${['First', 'Second', 'Third'][/\d/u.test(number) ? Number(number) - 1 : number.length - 1]!} `
    return number === '' && !isAbbreviated ? null : `${ordinal}${words.books[name]!}`
  },
}

/** Beside a name: Dr. Elm, Elm Dr. */
const placed: Form = {
  pattern: ({ words }) => `${wordsOf(new Set([...Object.keys(words.beforeName), ...Object.keys(words.afterName)]))}(?![\\p{L}\\p{N}])`,
  say: found => {
    const { whole, grammar: { words, primary }, after } = found
    // S. A. is a company, and no saint.
    if (/^[SD]\.$/u.test(whole) && /^[ \u00a0]\p{Lu}\./u.test(after)) return null
    const [title, suffix] = [words.beforeName[whole], words.afterName[whole]]
    const next = nameBehind(found)
    if (whole === 'Hl.') return next === null ? null : /[ae]$/u.test(next) ? title! : `${title!}r`
    if (suffix !== undefined && isBehindName(found) && (title === undefined || next === null || behindStreet.test(next))) return suffix
    if (title === undefined) return null
    if (next !== null || primary === 'fr' && whole === 'M.' && /^ et M(?:me|lle|\.)/u.test(after)) return title
    // Some are words or other abbreviations as well, and are said before a name only; the others also alone.
    if (primary === 'en') return suffix === undefined && whole.endsWith('.') && /^(?:Mr|Mrs|Ms|Prof|Dr)\./u.test(whole) ? title : null
    return /^(?:M|D|S|Me|St|Ste|Av|Fr|Mag|Pr)\.?$/u.test(whole) || primary === 'fr' && !/^[ \u00a0]/u.test(after) ? null : title
  },
  // Saint or street, doctor or drive.
  isWeak: ({ whole, grammar: { words } }) => words.beforeName[whole] !== undefined && words.afterName[whole] !== undefined,
}

/** Behind an ordinal: 2nd ed. */
const edition: Form = {
  needs: / ed\./u,
  pattern: ({ primary }) => primary === 'en' ? '(?<=(?:\\d(?:st|nd|rd|th)|first|second|third|revised|new)[ \\u00a0])ed\\.(?!\\p{L})' : null,
  say: () => 'edition',
}

/** Parties of a case in law, in English: Smith v. Jones. */
const versus: Form = {
  needs: /v\.[ \u00a0]/u,
  pattern: ({ primary }) => primary === 'en' ? '(?<=\\p{Lu}[\\p{L}’\'.]*[ \\u00a0])v\\.(?=[ \\u00a0]\\p{Lu})' : null,
  say: () => 'versus',
}

/** Names of German streets: Hauptstr. 5. */
const street: Form = {
  needs: /str\./u,
  pattern: ({ primary }) => primary === 'de' ? '(?<![\\p{L}])\\p{L}{2,}str\\.(?![\\p{L}])' : null,
  say: ({ whole }) => whole.replace(/str\.$/u, 'straße'),
}

/** French saints in the names of places: St-Malo, Ste-Anne. */
const frenchSaint: Form = {
  pattern: ({ primary }) => primary === 'fr' ? '(?<![\\p{L}\\p{N}])Ste?(?=-\\p{Lu})' : null,
  say: ({ whole }) => whole === 'St' ? 'Saint' : 'Sainte',
}

/** Centuries in French: au XXe s. */
const century: Form = {
  needs: / s\./u,
  pattern: ({ primary }) => primary === 'fr' ? '(?<=(?<![\\p{L}])[IVXLC]+(?:er|e|ᵉ)[ \\u00a0])s\\.(?![\\p{L}])' : null,
  say: () => 'siècle',
}

/** Minutes, seconds, millions and the like behind a number are units. */
const isUnit = ({ before, whole }: Found): boolean => /^(?:(?:min|Min|Std|Sek|sec|h|Mio|Mrd|Tsd)\.|c\. à .+)$/u.test(whole) && /\d[ \u00a0\u202f]?$/u.test(before)

const anywhere: Form = {
  // Most have a full stop or a stroke within the first characters, which rules out most places.
  pattern: ({ words }) => {
    const isMarked = (text: string): boolean => /^.{1,9}[./]/u.test(text)
    const all = Object.keys(words.abbreviations)
    const others = all.filter(text => !isMarked(text))
    return `(?:${wordsOf(all.filter(isMarked), { ahead: '(?=.{1,9}[./])' })}${others.length === 0 ? '' : `|${wordsOf(others)}`})(?![\\p{L}\\p{N}])`
  },
  // Mo.–Fr. is said as a whole, with the dates.
  say: found => isUnit(found) || /^[–-]\p{L}/u.test(found.after) || /\p{L}\.?[–-]$/u.test(found.before) ? null : found.grammar.words.abbreviations[found.whole]!,
}

export const abbreviations = expansion([book, verse, numbered, following, edition, versus, placed, street, frenchSaint, century, anywhere], { needs: /\p{L}/u })
