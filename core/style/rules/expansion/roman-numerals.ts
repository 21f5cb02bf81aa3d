import { openingWords } from '../../../language/abbreviations'
import { countedNouns } from '../../../language/german-nouns'
import { isAlsoWord, romanValue } from '../../../language/roman'
import { yearWords } from '../../../language/say-as'
import { expansion, type Form, type Found, type Grammar } from './form'
import { germanEnding } from './german'
import { capitalized } from './say'

/** What is counted on past fifty in Roman numerals, so that a single L or C behind it is a number. */
const countedOn = /^(?:chapter|canto|psalm|book|chapitre|livre|kapitel|buch|capítulo|libro)$/iu

/** What has a first kind, before a noun: type I diabetes. */
const countsOne = /^(?:type|class|phase|stage|grade|level|tier|factor|category|world war|typ|klasse|phase|stufe|classe|niveau|tipo|clase|fase|nivel)$/iu

/** Behind a numeral with a full stop the sentence goes on, unless a word that usually opens one follows: Ludwigs XIV. Hof. */
const goesOn = (after: string, { language }: Grammar): boolean => {
  const next = /^\s(\p{L}+)/u.exec(after)?.[1]
  return next !== undefined && !openingWords(language).has(next)
}

/** Behind *I* as a word. */
const verb = /^\s(?:have|had|am|was|will|would|can|could|shall|should|may|might|must|do|did|think|know|like|liked|want|wanted|love|read|wrote|see|saw|said|mean|need|use|used|make|made|describe|described|mention|mentioned|call|called|take|took|choose|chose|find|found|get|got|never|always|also|just|only|really)\b/u

/** Names of rulers: `Henry VIII` is the eighth. */
function regnal(value: number, { primary, numbers }: Grammar): string {
  const figures = String(value)
  switch (primary) {
    case 'en': return `the ${numbers.ordinal(figures)}`
    case 'de': return `der ${capitalized(numbers.ordinal(figures))}`
    case 'fr': return value === 1 ? 'premier' : numbers.cardinal(figures)
    default: return value <= 10 ? numbers.ordinal(figures) : numbers.cardinal(figures)
  }
}

/** German: of a name in the genitive, and behind a preposition with the dative. */
function inCase(words: string, before: string): string {
  const isGenitive = /(?:Ludwig|Heinrich|Friedrich|Wilhelm|Karl|Otto|Konrad|Georg|Leopold|Ferdinand|Rudolf|Napoleon|Peter|Paul)s\s$/u.test(before)
  const isDative = /(?:^|[^\p{L}])(?:von|mit|bei|unter|nach|zu|aus|dem)\s(?:\p{Lu}\p{L}+\s){1,3}$/iu.test(before)
  if (!isGenitive && !isDative) return words
  return words.replace(/^der /u, isGenitive ? 'des ' : 'dem ').replace(/^die /u, 'der ').replace(/te$/u, 'ten')
}

/** Rulers whose names are a woman's: *die Zweite*, *segunda*, *première*. */
const queen = /(?:Elisabeth|Élisabeth|Elizabeth|Katharina|Kleopatra|Margarethe|Maria|Catherine|Cléopâtre|Isabelle|Marie|Isabel|Catalina|Cleopatra|Margarita|María)\s$/u
const feminine = (words: string, { primary }: Grammar): string =>
  primary === 'de' ? words.replace(/^der /u, 'die ') : primary === 'es' ? words.replace(/o$/u, 'a') : primary === 'fr' ? words.replace(/premier$/u, 'première') : words

const roman = '(?<roman>[IVXLCDM]+)'
const alone = '(?=[IVXLCDM])(?<![\\p{L}\\p{N}.])'
const ends = '(?![\\p{L}\\p{N}-]|[’\'](?!s\\b)|\\.\\p{L})'

/** Behind a word for what is numbered: Chapter IV, World War II, Volume LVIII. */
const numbered: Form = {
  needs: /(?<![\p{L}\p{N}])(?:[IVXLCDM]+|[ivx]{2,})(?![\p{L}\p{N}])/u,
  pattern: ({ words }) => `(?=[IVXLCDM])(?<=(?<![\\p{L}])(?<keyword>${words.numbered})s?\\s)${alone}${roman}(?:(?<dash>[ \\u00a0]?[–—-][ \\u00a0]?|[ \\u00a0](?:and|or|to|und|bis|et|à|y|a)[ \\u00a0])(?<second>[IVXLCDM]+))?${ends}`,
  ignoreCase: true,
  say: ({ group, after, grammar }) => {
    const [first, second, keyword] = [group('roman'), group('second'), group('keyword')]
    // “The book I read” is no first book.
    if (first === 'I' && second === '' && /^\p{Ll}/u.test(keyword) && /^\s\p{Ll}/u.test(after) && (!countsOne.test(keyword) || verb.test(after))) return null
    const said = (text: string): string | null => {
      const value = romanValue(/^[ivx]+$/u.test(text) ? text.toUpperCase() : text)
      // Appendix D and class C are letters.
      if (value === null || /^[LCDM]$/u.test(text) && !countedOn.test(keyword) || isAlsoWord(text) && text !== 'I') return null
      return text.length === 1 && (text === 'X' && new RegExp(`^(?:${grammar.words.lettered})$`, 'iu').test(keyword) || /^(?:appendix|exhibit|annex|annexe|anexo|anhang)$/iu.test(keyword)) ? null : grammar.numbers.cardinal(String(value))
    }
    const [one, two] = [said(first), second === '' ? '' : said(second)]
    if (one === null || two === null) return null
    return second === '' ? one : `${one}${/[–—-]/u.test(group('dash')) ? ` ${grammar.words.to} ` : group('dash')}${two}`
  },
}

/** One letter may be an initial. */
function isLetter({ group }: Found): boolean {
  return group('roman').length === 1
}

/** Behind the name of a ruler, or a name with a title before it: Henry VIII, Queen Anne II. */
const ruler: Form = {
  pattern: ({ words, primary }) => `(?=[IVXLCDM])(?:(?<=(?<!\\p{L})(?:${words.rulers})${primary === 'de' ? 's?' : ''}\\s)|(?<=(?<!\\p{L})(?:${words.titles}|${words.titles.toLowerCase()})\\s(?:\\p{Lu}\\p{L}+[\\s-]){1,2}))${alone}${roman}(?<dot>${primary === 'de' ? '\\.?' : ''})(?:(?<ending>er|ère)(?![\\p{L}]))?(?<and> and (?<second>[IVX]+))?${ends}`,
  say: found => {
    const { group, before, after, grammar } = found
    const value = romanValue(group('roman'))
    // Malcolm X is a name. C, D, L and M are initials.
    if (value === null || /^[LCDM]$/u.test(group('roman')) || value > 40 || /Malcolm\s$/u.test(before) && value > 4) return null
    const said = regnal(value, grammar)
    const words = queen.test(before) ? feminine(said, grammar) : said
    const fitted = grammar.primary === 'de' ? inCase(words, before) : words
    // The full stop of a German numeral is part of it, unless the sentence ends there.
    const second = romanValue(group('second'))
    const more = grammar.primary !== 'en' || second === null ? group('and') : ` and ${grammar.numbers.ordinal(String(second))}`
    return `${fitted}${more}${group('dot') !== '' && !/^[,;)]/u.test(after) && !goesOn(after, grammar) ? '.' : ''}`
  },
  isWeak: isLetter,
}

/** A person of a family: John Smith III; two names stand before it, and II, III or IV counts the bearers. */
const bearer: Form = {
  pattern: ({ primary }) => primary === 'en' ? `(?=I[IV])(?<=\\p{Lu}\\p{Ll}+\\s(?:\\p{Lu}\\.\\s)?\\p{Lu}\\p{Ll}+,?\\s)${alone}(?<roman>II|III|IV)${ends}` : null,
  say: ({ group, grammar }) => `the ${grammar.numbers.ordinal(String(romanValue(group('roman'))))}`,
}

/** In French a century or an ordinal is written with an ending: XIXe siècle, Ier. */
const french: Form = {
  pattern: ({ primary }) => primary === 'fr' ? `${alone}${roman}(?<ending>er|re|e|ème|ᵉ)(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => {
    const value = romanValue(group('roman'))
    // Le, Ce, De and Me are words.
    if (value === null || /^[LCDM]$/u.test(group('roman'))) return null
    return value === 1 ? group('ending') === 're' ? 'première' : 'premier' : grammar.numbers.ordinal(String(value))
  },
}

/** In German the numeral of an ordinal has a full stop: im XIX. Jahrhundert. */
const german: Form = {
  pattern: ({ primary }) => primary === 'de' ? `${alone}${roman}\\.(?=\\s\\p{Lu}\\p{L}{3,})` : null,
  say: ({ group, before, after, grammar, index }) => {
    const value = romanValue(group('roman'))
    if (value === null) return null
    const words = grammar.numbers.ordinal(String(value))
    const ending = countedNouns[/^\s(\p{L}+)/u.exec(after)![1]!]
    if (ending !== undefined && !/\p{Ll}\s$/u.test(before)) return `${words.replace(/e$/u, '')}${ending}`
    return index === 0 || !/\p{Ll}\s$/u.test(before) ? null : germanEnding(words, before)
  },
}

/** In Spanish centuries before the tenth are ordinals as well; both are in use. Behind a noun that is counted so: XV Congreso. */
const spanish: Form = {
  pattern: ({ primary }) => primary === 'es' ? `${alone}${roman}(?=\\s(?:Congreso|Edición|Feria|Juegos|Jornada|Jornadas|Certamen|Aniversario|Festival|Cumbre|Asamblea|Olimpiada|Guerra|República|Dinastía|aniversario|edición|dinastía))` : null,
  say: ({ group, after, grammar }) => {
    const value = romanValue(group('roman'))
    if (value === null || value > 20) return null
    const ordinal = grammar.numbers.ordinal(String(value))
    return /^\s(?:Edición|Feria|Jornada|Cumbre|Asamblea|Olimpiada|Guerra|República|Dinastía|edición|dinastía)/u.test(after) ? ordinal.replace(/o$/u, 'a') : ordinal.replace(/(primer|tercer)o$/u, '$1')
  },
}

/** Centuries behind their abbreviation in Spanish: s. XIX, ss. XVI-XVII. */
const spanishCentury: Form = {
  pattern: ({ primary }) => primary === 'es' ? '(?<![\\p{L}\\p{N}.])(?<word>ss?)\\.[ \\u00a0](?<first>[IVX]+)(?:(?<link>[–-]| y | a | al )(?<last>[IVX]+))?(?![\\p{L}\\p{N}])' : null,
  say: ({ group, grammar }) => {
    const [first, last] = [romanValue(group('first')), romanValue(group('last'))]
    if (first === null || first > 30 || group('last') !== '' && (last === null || last > 30)) return null
    const said = (value: number): string => grammar.numbers.cardinal(String(value))
    return `${group('word') === 's' ? 'siglo' : 'siglos'} ${said(first)}${last === null ? '' : `${/[–-]/u.test(group('link')) ? ' a ' : group('link')}${said(last)}`}`
  },
}

/** The number of a heading: IV. The Swarm; alone, or before what names the part. */
const heading: Form = {
  pattern: () => `${alone}${roman}(?<dot>\\.(?=\\s|$)|)${ends}`,
  say: ({ group, index, text, after, grammar }) => {
    const value = romanValue(group('roman'))
    if (value === null || text.kind !== 'heading' && text.kind !== 'title' || /^[LCDM]$/u.test(group('roman')) || text.text.slice(0, index).trim() !== '') return null
    const [word, dot] = [grammar.numbers.cardinal(String(value)), group('dot')]
    return dot !== '' || /^\s*(?:$|[—–:-])/u.test(after) ? `${word}${dot}` : null
  },
  isWeak: isLetter,
}

/** A year, as on a title page: MMXXIV. */
const year: Form = {
  pattern: () => `${alone}(?<roman>M[MDCLXVI]{3,})${ends}`,
  say: ({ group, grammar }: Found) => {
    const value = romanValue(group('roman'))
    return value === null || value < 1100 || value > 2100 ? null : yearWords(String(value), grammar)
  },
}

/** A long numeral behind a name of another sort is a number: the fourteenth of a series, a craft. */
const counted: Form = {
  pattern: ({ words }) => `(?=[IVXLCDM]{3})(?<=\\p{Lu}\\p{L}+[ \\u00a0])(?<!(?<!\\p{L})(?:${words.rulers})\\s)${alone}(?<roman>[IVXLCDM]{3,})${ends}`,
  say: ({ group, grammar }) => {
    const [text, value] = [group('roman'), romanValue(group('roman'))]
    return value === null || value > 99 || !/[IV]/u.test(text) || /^(?:III|LIV|XXX)$/u.test(text) || isAlsoWord(text) ? null : grammar.numbers.cardinal(String(value))
  },
  isWeak: () => true,
}

export const romanNumerals = expansion([numbered, ruler, bearer, french, german, spanish, spanishCentury, heading, year, counted], { needs: /(?=[IVXLCDMivx])(?:(?<!\w)(?:[VXLCDM](?!\w)|[IVX](?:er|re|e|ᵉ)(?![\p{L}])|[IVXLCDM]{2,}|[ivx]{2,}(?!\w))|I(?:(?<=^\s{0,20}I|\p{L}{3}\.?\sI)(?:[.:,;)]|er|re|$|\s+\p{Lu})|(?!\w)(?<=(?:\p{Lu}\p{L}{2,15}|type|class|phase|stage|grade|level)\sI)))/u })
