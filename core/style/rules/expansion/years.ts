import { inPairs } from '../../../language/counted'
import { yearWords } from '../../../language/say-as'
import { isCount } from './english'
import { expansion, type Form, type Found, type Grammar } from './form'
import { inPlural, word } from './say'

const free = '(?<![\\p{L}\\p{N}]|[£€$#] ?|\\d[.,:/]|[-−](?<![\\p{L}\\p{N}]-))'
const ends = '(?![\\p{L}\\p{N}%°£€$]|[.,:/]\\d)'
const era = 'AD|BC|CE|BCE|B\\.C\\.|A\\.D\\.'

/** A year; of two figures, behind a longer year or with a decade's ending, it is a number. */
const said = (figures: string, grammar: Grammar): string => figures.length === 4 ? yearWords(figures, grammar) : word(figures, grammar)

/** Years that belong together: 2008/09, 1914–18, 1998/1999. */
const pair: Form = {
  pattern: ({ words }) => `${free}(?<first>1[0-9]\\d\\d|20\\d\\d)(?:[/–—-]| ${words.to} )(?<second>\\d{2}|(?<=/)\\d|1[0-9]\\d\\d|20\\d\\d)(?![\\p{L}\\p{N}%°£€$/-]|[.,:]\\d)`,
  say: ({ group, whole, after, grammar }) => {
    const [first, second] = [group('first'), group('second')]
    const full = `${first.slice(0, 4 - second.length)}${second}`
    const next = Number(full) === Number(first) + 1 || first.endsWith('99') && second === '00'
    // “1904 to 67 per cent”: the number behind the word counts something.
    if (second.length === 2 && whole.includes(' ') && /^ (?:per ?cent|million|billion|thousand|hundred|of|\p{Ll}+s)\b/u.test(after)) return null
    // With a stroke only years that follow each other are a pair, else those that grow.
    if (whole.includes('/') && !next || Number(full) <= Number(first) && !next) return null
    const { primary, words } = grammar
    return `${said(first, grammar)} ${words.to} ${second.length < 4 && primary === 'en' ? word(second, grammar) : said(first.endsWith('99') && second === '00' ? String(Number(first) + 1) : full, grammar)}`
  },
}

/** Decades: 1990s, '90s, her 20s; 90er, 1990ern. */
const decade: Form = {
  pattern: ({ primary }) => ({
    en: '(?<![\\p{L}\\p{N}]|\\d[.,:/]|[£€$])[’\'‘]?(?<year>1[0-9]\\d0|20\\d0|1000|[1-9]0|(?<=[’\'‘])00)[’\']?s(?![\\p{L}\\p{N}])',
    de: `${free}[’']?(?<year>1\\d\\d\\d|20\\d\\d|[1-9]\\d)er(?<ending>n?)(?:-(?=Jahre))?(?![\\p{L}\\p{N}])`,
  } as Readonly<Record<string, string>>)[primary] ?? null,
  say: ({ group, grammar }) => {
    const figures = group('year')
    if (grammar.primary === 'de') return `${said(figures, grammar)}er${group('ending')}`
    if (figures === '00') return 'two thousands'
    return figures === '1000' ? 'thousands' : inPlural(said(figures, grammar))
  },
}

/** A century left out: class of ’98, summer of ’05. */
const shortened: Form = {
  pattern: () => '(?<![\\p{L}\\p{N}])[’\'‘](?<year>\\d{2})(?![\\p{L}\\p{N}’\'"”]|[.,:/]\\d)',
  say: ({ group, grammar }) => grammar.primary === 'en' && group('year').startsWith('0') ? `oh ${word(group('year'), grammar)}` : word(group('year'), grammar),
}

/** From one to another, both without their century: ’68–’72. */
const shortenedPair: Form = {
  pattern: ({ primary }) => primary === 'en' ? '(?<![\\p{L}\\p{N}])[’\'‘](?<first>\\d{2})[–-][’\'‘](?<second>\\d{2})(?![\\p{L}\\p{N}’\'"”]|[.,:/]\\d)' : null,
  say: ({ group, grammar }) => `${word(group('first'), grammar)} ${grammar.words.to} ${word(group('second'), grammar)}`,
}

/** Years of accounts: FY2021, FY21. */
const fiscal: Form = {
  pattern: ({ primary }) => primary === 'en' ? '(?<![\\p{L}\\p{N}])FY[ \\u00a0’\']?(?<year>20\\d\\d|19\\d\\d|\\d{2})(?:[–/-](?<second>\\d{2}))?(?![\\p{L}\\p{N}])' : null,
  say: ({ group, grammar }) => `fiscal year ${said(group('year'), grammar)}${group('second') === '' ? '' : ` to ${word(group('second'), grammar)}`}`,
}

/** With an era beside it, also before the year 1000: 476 AD, AD 43, 1066. */
const old: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${free}(?:(?<=(?<!\\p{L})(?:AD|A\\.D\\.)[ \\u00a0])\\d{3}|(?<=(?<!\\p{L})[Yy]ear[ \\u00a0])\\d{3}|\\d{3}(?=[ \\u00a0](?:${era})(?!\\p{L}))|10[0-9]\\d(?=[ \\u00a0](?:${era})(?!\\p{L}))|(?<=(?<!\\p{L})(?:[Ii]n|[Ss]ince|[Bb]y|[Ff]rom|[Uu]ntil|[Tt]ill|[Dd]uring|[Bb]efore|[Aa]fter|circa|AD|[Yy]ear|[Oo]f)[ \\u00a0])10[1-9]\\d|(?<=\\()10[1-9]\\d(?=\\))|(?<=\\p{L},[ \\u00a0])10[1-9]\\d(?=[.;)]))${ends}` : null,
  say: found => {
    if (isCount(found)) return null
    const { whole: year, grammar } = found
    return year.endsWith('00') || year.startsWith('100') ? word(year, grammar) : inPairs(year, grammar)
  },
}

/** A count before a noun is none: about 1984 gulls. */
const year: Form = {
  pattern: () => `${free}(?<year>1[1-9]\\d\\d|20\\d\\d)(?<possessive>[’']s)?${ends}`,
  say: found => isCounted(found) ? null : `${said(found.group('year'), found.grammar)}${found.group('possessive')}`,
}

function isCounted(found: Found): boolean {
  const { before, after, grammar: { primary } } = found
  switch (primary) {
    case 'en': return isCount(found)
    // A noun behind it, in the plural, and no word before it that names a year. Before a verb a year opens the sentence: 1984 kamen Möwen.
    case 'de': return !(/(?:^|[.;:!?–—])\s*$/u.test(before) && /^[ \u00a0]\p{Ll}/u.test(after)) && /^[ \u00a0](?:\p{Ll}+(?:e|en|er) )?\p{Lu}\p{Ll}+(?:en|er|e|n|s)(?![\p{L}])/u.test(after) && !/(?:^|[^\p{L}])(?:im|Jahr|Jahre|Jahres|seit|von|bis|ab|um|vor|nach|Anfang|Mitte|Ende|in|und|der|die|das|den|dem|des|Sommer|Winter|Herbst|Frühling|Frühjahr|Januar|Februar|März|April|Mai|Juni|Juli|August|September|Oktober|November|Dezember)\s$/u.test(before)
    default: return /^[ \u00a0](?!(?:mais|dans|sous|sans|puis|vers|après|pas|plus|moins|fois|nous|vous|ils|elles|tous|más|menos|pues|tras|entonces|los|las|ellos|ellas)(?!\p{L}))\p{Ll}{3,}s(?![\p{L}])/u.test(after)
      && !/(?:^|[^\p{L}])(?:en|dès|depuis|vers|avant|après|années?|an|l’an|de|du|le|la|les|des|hacia|año|años|desde|hasta|del|el|los|las|para|janvier|février|mars|avril|mai|juin|juillet|août|septembre|octobre|novembre|décembre)\s$/iu.test(before)
  }
}

export const years = expansion([fiscal, shortenedPair, pair, decade, old, year, shortened])
