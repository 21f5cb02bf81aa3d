import { openingWords, primaryLanguage } from '../../language/abbreviations'
import { numberWords, parseNumber, type NumberWords } from '../../language/numbers'
import { isAlsoWord, romanValue } from '../../language/roman'
import { cardinal, counted, monthNames, sayAsWords, units as formatterUnits, yearWords } from '../../language/say-as'
import { apart, each, type NoOptions, type RuleHit, type RuleKind, type RuleText } from './rule-kind'
import { ruleWords, wordsFor, type RuleWords } from './words'

// What is written short and said long. English, German, French and Spanish; plain numbers in every language whose number words are known.

interface Grammar {
  readonly language: string
  readonly primary: string
  readonly numbers: NumberWords
  readonly words: RuleWords
  /** Pattern of a number as the language writes it, without a sign before it. */
  readonly number: string
}

const grammars = new Map<string, Grammar | null>()

function grammarOf(language: string): Grammar | null {
  let grammar = grammars.get(language)
  if (grammar === undefined) {
    const [numbers, words, primary] = [numberWords(language), ruleWords(language), primaryLanguage(language)]
    grammar = numbers === null || words === null ? null : { language, primary, numbers, words, number: numberPatterns[primary]! }
    grammars.set(language, grammar)
  }
  return grammar
}

const numberPatterns: Readonly<Record<string, string>> = {
  en: '(?:\\d{1,3}(?:,\\d{3})+(?![\\d,])|\\d+)(?:\\.\\d+)?',
  de: '(?:\\d{1,3}(?:[.\\u00a0\\u202f]\\d{3})+(?![\\d.]\\d)|\\d+)(?:,\\d+)?',
  fr: '(?:\\d{1,3}(?:[ \\u00a0\\u202f]\\d{3})+(?!\\d)|\\d+)(?:,\\d+)?',
  es: '(?:\\d{1,3}(?:[.\\u00a0\\u202f]\\d{3})+(?![\\d.]\\d)|\\d+)(?:,\\d+)?',
}

/** Where a number may begin: not within a word, a code or a larger number. */
const begins = '(?<![\\p{L}\\p{N}]|\\d[.,:/])'
/** Not a hyphen behind a word, nor the dash of a range: a sign touches its number and nothing else. */
const sign = '(?:(?<![\\p{L}\\p{N})])(?<![\\p{N})][ \\u00a0\\u202f])[-−–+])?'

/** A kind without options whose pattern is made once for each language; of texts without `needs` nothing is asked. */
function expansion(pattern: (grammar: Grammar) => RegExp, make: (match: RegExpMatchArray & { index: number }, grammar: Grammar, text: RuleText) => string | null, needs = /\d/u): RuleKind<NoOptions> {
  const finders = new Map<string, (text: RuleText) => RuleHit[]>()
  return {
    group: 'expansion', options: {}, required: [], defaults: {},
    finder: () => text => {
      const grammar = needs.test(text.text) ? grammarOf(text.language) : null
      if (grammar === null) return []
      let find = finders.get(text.language)
      if (find === undefined) {
        find = each(pattern(grammar), (match, own) => {
          const spoken = make(match, grammar, own)
          return spoken === null || /\d/u.test(spoken) ? null : { spoken: apart(spoken, own.text, match.index, match.index + match[0].length) }
        })
        finders.set(text.language, find)
      }
      return find(text)
    },
  }
}

const said = (text: string, kind: string, { language }: Grammar, format?: string): string | null => {
  const result = sayAsWords(text, kind, format, language)
  return 'words' in result ? result.words : null
}

/** Month names of a language, long and short, as a pattern. */
function monthsOf(language: string): string {
  return [...new Set(monthNames(language).flat())].sort((a, b) => b.length - a.length).join('|')
}

/** Words after which a German day or ordinal ends in -n, and in nothing. */
const germanOblique = /(?:^|[^\p{L}])(?:am|vom|zum|beim|im|den|dem|des|der ersten|seit|ab|bis|bis zum|nach dem|einem|einen|jeden|diesem|jedem)\s$/iu
const germanDirect = /(?:^|[^\p{L}])(?:der|die|das|dieser|jeder|jede|jedes)\s$/iu

/** A German ordinal with the ending that the words before it ask for. */
function germanEnding(words: string, before: string): string {
  const bare = words.replace(/(?<=t)er?(?= |$)/u, 'e')
  if (germanOblique.test(before)) return bare.replace(/te(?= |$)/u, 'ten')
  return germanDirect.test(before) ? bare : words
}

function before({ text }: RuleText, index: number): string {
  return text.slice(Math.max(0, index - 30), index)
}

export const dates = expansion(
  ({ language, primary }) => {
    const month = monthsOf(language)
    const day = '(?:0?[1-9]|[12]\\d|3[01])'
    const year = '\\d{4}'
    const forms = [`(?<iso>${year}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\\d|3[01]))(?!\\d)`, `(?<figures>\\d{1,2}(?<mark>[./-])\\d{1,2}\\k<mark>(?:\\d{4}|\\d{2}))(?![\\d./-]\\d)`]
    switch (primary) {
      case 'en': forms.push(`(?<dmy>${day}(?:st|nd|rd|th)?(?: of)? (?:${month})\\b\\.?(?:,? ${year})?)`, `(?<mdy>(?:${month})\\.? ${day}(?:st|nd|rd|th)?\\b(?!:|[.,]\\d)(?:,? ${year})?)`, `(?<my>(?:${month})\\.? ${year})`); break
      case 'de': forms.push(`(?<dmy>${day}\\. ?(?:${month})\\b\\.?(?: ${year})?)`, `(?<my>(?:${month}) ${year})`); break
      case 'fr': forms.push(`(?<dmy>(?:1er|${day}) (?:${month})(?!\\p{L})\\.?(?: ${year})?)`, `(?<my>(?:${month}) ${year})`); break
      case 'es': forms.push(`(?<dmy>${day} de (?:${month})\\b(?: (?:de|del) ${year})?)`, `(?<my>(?:${month}) (?:de|del) ${year})`); break
    }
    return new RegExp(`${begins}(?:${forms.join('|')})(?!\\d)`, primary === 'en' ? 'gu' : 'giu')
  },
  (match, grammar, text) => {
    const { iso, figures, dmy, mdy, my } = match.groups as Record<string, string | undefined>
    const prior = before(text, match.index)
    const bare = (value: string): string => value.replace(/(?<=\d)(?:st|nd|rd|th|er)\b/giu, '').replace(/ (?:of|de|del)(?= )/giu, '').replace(/(?<=\p{L})\./gu, '')
    const fields = (value: string): number => value.split(/[\s./,-]+/u).length
    if (figures !== undefined) {
      const order = grammar.language === 'en-US' || grammar.language === 'en' ? 'mdy' : 'dmy'
      // What is no day and month in the usual order may be one in the other.
      const found = said(figures, 'date', grammar, order) ?? said(figures, 'date', grammar, order === 'dmy' ? 'mdy' : 'dmy')
      return found === null ? null : ended(found)
    }
    const value = bare(iso ?? dmy ?? mdy ?? my!)
    const order = iso !== undefined ? 'ymd' : my !== undefined ? 'my' : mdy !== undefined ? 'mdy'.slice(0, fields(value)) : 'dmy'.slice(0, fields(value))
    const found = said(value, 'date', grammar, order)
    return found === null ? null : ended(found)

    function ended(words: string): string {
      if (grammar.primary === 'en' && /(?:^|\s)the\s$/iu.test(prior)) return words.replace(/^the /u, '')
      if (grammar.primary === 'de') return germanEnding(words, prior)
      return words
    }
  })

export const times = expansion(
  ({ primary }) => {
    switch (primary) {
      case 'en': return new RegExp(`${begins}(?:(?:[01]?\\d|2[0-4])[:.][0-5]\\d(?::[0-5]\\d)?\\s?(?:[ap]\\.m\\.|[ap]m\\b)|(?:[01]?\\d|2[0-4]):[0-5]\\d(?::[0-5]\\d)?(?![\\d:])|(?:1[0-2]|0?[1-9])\\s?(?:[ap]\\.m\\.|[ap]m\\b))`, 'giu')
      case 'de': return new RegExp(`${begins}(?:(?:[01]?\\d|2[0-4])[:.][0-5]\\d(?::[0-5]\\d)?\\s?Uhr\\b|(?:[01]?\\d|2[0-4]):[0-5]\\d(?::[0-5]\\d)?(?![\\d:])|(?:[01]?\\d|2[0-4])\\sUhr\\b)`, 'gu')
      case 'fr': return new RegExp(`${begins}(?:(?:[01]?\\d|2[0-4])[ \\u00a0\\u202f]?h(?:[ \\u00a0\\u202f]?[0-5]\\d)?(?![\\p{L}\\d])|(?:[01]?\\d|2[0-4]):[0-5]\\d(?::[0-5]\\d)?(?![\\d:]))`, 'gu')
      default: return new RegExp(`${begins}(?:[01]?\\d|2[0-4]):[0-5]\\d(?::[0-5]\\d)?(?![\\d:])(?:\\s?(?:h\\b|horas\\b))?`, 'gu')
    }
  },
  ([text], grammar) => said(text.replace(/(?<=\d)[ \u00a0\u202f]?h[ \u00a0\u202f]?(?=\d)/u, 'h').replace(/\s?horas$/u, ''), 'time', grammar))

/** Signs and codes of money, before and behind a sum. */
const money = '[£€$¥]|(?:EUR|GBP|USD|CHF|JPY|PLN|CZK|SEK|NOK|DKK|CAD|AUD)(?!\\p{L})'

export const currencies = expansion(
  ({ number, words }) => {
    const magnitude = Object.keys(words.magnitudes).sort((a, b) => b.length - a.length).map(escape).join('|')
    return new RegExp(`${begins}(?:(?<minus>[-−])?(?<first>${money}) ?(?<sum>${number})(?: ?(?<large>${magnitude})(?!\\p{L}))?|(?<sumFirst>${sign}${number})(?:[ \\u00a0\\u202f]?(?<largeFirst>${magnitude})(?!\\p{L}))?[ \\u00a0\\u202f]?(?<last>${money}|zł|Kč))(?!\\d)`, 'gu')
  },
  ({ groups = {} }, grammar) => {
    const code = (groups['first'] ?? groups['last'])!
    const sum = `${groups['minus'] === undefined ? '' : '-'}${groups['sum'] ?? groups['sumFirst']!}`
    const large = groups['large'] ?? groups['largeFirst']
    if (large === undefined) {
      const plain = said(`${sum} ${code}`, 'currency', grammar)
      if (plain !== null) return plain
    }
    // 2,5 million euros: the name goes with the large number; of tenths of a unit the point is said.
    const number = cardinal(sum, grammar)
    const name = said(`5 ${code}`, 'currency', grammar)?.split(' ').slice(1).join(' ')
    if (number === null || name === undefined) return null
    return large === undefined ? `${number} ${name}` : `${number} ${grammar.words.magnitudes[large]}${linkTo(name, grammar.words.magnitudes[large]!, grammar)}${name}`
  })

/** What stands between a large number and a name: in French and Spanish a million is *of* something. */
function linkTo(name: string, magnitude: string, { primary }: Grammar): string {
  if (!/^(?:millón|millones|millions?|milliards?)$/u.test(magnitude)) return ' '
  if (primary === 'fr') return /^[aeiouéh]/u.test(name) ? ' d’' : ' de '
  return primary === 'es' ? ' de ' : ' '
}

const escape = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/gu, '\\$&')

/** A number with the sign of a unit behind it; `accept` chooses the signs. */
function measured(accept: (sign: string) => boolean): RuleKind<NoOptions> {
  return expansion(
    ({ number, words }) => {
      const signs = [...new Set([...Object.keys(words.units), ...Object.keys(formatterUnits), '°C', '°F', 'KB', 'MB', 'GB', 'L'])].filter(accept).sort((a, b) => b.length - a.length)
      return new RegExp(`${begins}(?<sum>${sign}${number})[ \\u00a0\\u202f]?(?<unit>${signs.map(escape).join('|')})(?![\\p{L}\\p{N}/²³])`, 'gu')
    },
    ({ groups = {}, 0: whole }, grammar) => {
      const [sum, unit] = [groups['sum']!, groups['unit']!]
      // 1990s are years.
      if (unit === 's' && whole === `${sum}s`) return null
      const own = grammar.words.units[unit]
      if (own === undefined) return said(`${sum} ${unit}`, 'unit', grammar)
      const parsed = parseNumber(sum, grammar.language)
      const words = cardinal(sum, grammar)
      if (parsed === null || words === null) return null
      const isOne = parsed.decimals === '' && parsed.whole === '1' || grammar.primary === 'fr' && Number(parsed.whole) < 2
      const name = own[isOne ? 0 : 1]
      return `${parsed.decimals === '' && !parsed.minus ? counted(parsed.whole, name, grammar) : words} ${name}`
    })
}

/** Signs that are words as well, or stand for something else more often. */
const ambiguousUnits = new Set(['in', 'd', 'ac', '%', '°', '°c', '°f', '°C', '°F'])
export const measures = measured(unit => !ambiguousUnits.has(unit))
export const temperatures = measured(unit => unit.startsWith('°'))
export const percentages = measured(unit => unit === '%')

export const ordinals = expansion(
  ({ primary }) => {
    switch (primary) {
      case 'en': return new RegExp(`${begins}(?<figures>\\d{1,3}(?:,\\d{3})+|\\d{1,12})(?:st|nd|rd|th)(?![\\p{L}\\p{N}])`, 'gu')
      case 'de': return new RegExp(`${begins}(?<figures>\\d{1,3})\\.(?= \\p{Ll})|(?<=(?:^|[^\\p{L}])(?:[Aa]m|[Vv]om|[Zz]um|[Bb]eim|[Ii]m|[Dd]er|[Dd]ie|[Dd]as|[Dd]en|[Dd]em|[Dd]es|[Jj]ede[rsmn]?|[Dd]iese[rsmn]?|[Ee]ine[mn]) )(?<figures2>\\d{1,3})\\.(?= \\p{L})`, 'gu')
      case 'fr': return new RegExp(`${begins}(?<figures>\\d{1,4})(?<ending>ers?|res?|ères?|èmes?|ièmes?|es?|nde?s?|ds?)(?![\\p{L}\\p{N}])`, 'gu')
      default: return new RegExp(`${begins}(?<figures>\\d{1,3})(?<ending>\\.?[ºª°]|er)(?![\\p{L}\\p{N}])`, 'gu')
    }
  },
  ({ groups = {}, index }, grammar, text) => {
    const figures = (groups['figures'] ?? groups['figures2'])!.replace(/,/gu, '')
    if (/^0+$/u.test(figures)) return null
    const words = grammar.numbers.ordinal(figures)
    if (grammar.primary === 'de') return germanEnding(words, before(text, index))
    const ending = groups['ending'] ?? ''
    if (grammar.primary === 'fr') {
      if (figures === '1') return `${/^(?:re|ère)/u.test(ending) ? 'première' : 'premier'}${ending.endsWith('s') ? 's' : ''}`
      if (/^n?d/u.test(ending)) return figures === '2' ? `second${/^nde/u.test(ending) ? 'e' : ''}${ending.endsWith('s') ? 's' : ''}` : null
      return `${words}${ending.endsWith('s') ? 's' : ''}`
    }
    if (grammar.primary === 'es') return ending.endsWith('ª') ? words.replace(/o\b/gu, 'a') : ending === 'er' ? words.replace(/(primer|tercer)o$/u, '$1') : words
    return words
  })

/** Names of rulers and the like: `Henry VIII` is the eighth. */
function regnal(value: number, { primary, numbers }: Grammar): string {
  const figures = String(value)
  switch (primary) {
    case 'en': return `the ${numbers.ordinal(figures)}`
    case 'de': return `der ${numbers.ordinal(figures).replace(/^./u, first => first.toUpperCase())}`
    case 'fr': return value === 1 ? 'premier' : numbers.cardinal(figures)
    default: return value <= 10 ? numbers.ordinal(figures) : numbers.cardinal(figures)
  }
}

/** What is counted on past fifty in Roman numerals, so that a single L or C behind it is a number. */
const countedOn = /^(?:chapter|canto|psalm|book|chapitre|livre|kapitel|buch|capítulo|libro)$/iu

export const romanNumerals = expansion(
  ({ words }) => new RegExp(`(?<=(?<keyword>(?<![\\p{L}])(?:${words.numbered})\\s)|(?<name>(?<![\\p{L}])\\p{Lu}\\p{Ll}+\\s)|(?<start>^\\s*)|)(?<![\\p{L}\\p{N}.])(?<roman>[IVXLCDM]+)(?<ending>er|re|e|ème|\\.(?=\\s|$))?(?![\\p{L}\\p{N}’'-]|\\.\\p{L})`, 'giu'),
  ({ groups = {}, index }, grammar, { text, kind }) => {
    const { roman = '', keyword, name, ending = '' } = groups
    const value = romanValue(roman)
    if (value === null) return null
    const { primary, numbers } = grammar
    const word = numbers.cardinal(String(value))
    const dot = ending === '.' ? '.' : ''
    // Appendix D and class C are letters; so is a heading that is counted A, B, C.
    if (/^[LCDM]$/u.test(roman) && (ending === '' || dot !== '') && !(keyword !== undefined && countedOn.test(keyword.trim()))) return null
    if (keyword !== undefined) return isAlsoWord(roman) && roman !== 'I' ? null : `${word}${dot}`
    // In French a century is written with an ending: XIXe siècle.
    if (primary === 'fr' && /^[LCDM]$/u.test(roman)) return null
    if (primary === 'fr' && /^(?:er|re|e|ème)$/u.test(ending)) return value === 1 ? ending === 're' ? 'première' : 'premier' : numbers.ordinal(String(value))
    const rest = text.slice(index + roman.length + ending.length)
    if (primary === 'de' && dot !== '' && /^\s\p{Lu}\p{L}*/u.test(rest) && name === undefined) return germanEnding(numbers.ordinal(String(value)), text.slice(Math.max(0, index - 30), index))
    if ((kind === 'heading' || kind === 'title') && /^\s*$/u.test(text.slice(0, index)) && (dot !== '' || /^\s*(?:$|[—–:-])/u.test(rest))) return `${word}${dot}`
    if (isAlsoWord(roman)) return null
    const follows = name !== undefined || kind === 'heading' || kind === 'title'
    if (name === undefined || !/^\p{Lu}/u.test(name)) return follows && roman.length > 1 ? `${word}${dot}` : null
    // A single figure is one behind a name only, and the first word of a sentence is no sure one.
    if (roman.length < 2 && (!/^[VX]$/u.test(roman) || /(?:^|[.!?]\s)$/u.test(text.slice(0, index - name.length)))) return null
    // The full stop of a German numeral is part of it, unless the sentence ends there.
    return `${regnal(value, grammar)}${dot !== '' && (primary !== 'de' || !/^\s\p{Ll}/u.test(rest)) ? '.' : ''}`
  }, /(?<!\w)(?:[VXLCDM](?!\w)|[IVXLCDM]{2,})|(?:^\s*|(?<=\p{L}{3}\.?\s))I(?:[.:,]|er|re|$|\s+\p{Lu})/u)

/** The sign between two numbers that belong together. */
export const ranges = expansion(
  ({ number }) => new RegExp(` ?[–-] ?(?<=(?<![\\p{L}\\p{N}.,/–-])(?<low>[£€$]?${number})(?: ?(?:%|°[CF]?))? ?[–-] ?)(?=(?<high>[£€$]?${number})(?![\\p{N}–-]|[.,:/]\\d))`, 'gu'),
  ({ groups = {}, 0: text }, grammar) => {
    const value = (figures: string): number => {
      const parsed = parseNumber(figures.replace(/^[£€$]/u, ''), grammar.language)
      return parsed === null ? Number.NaN : Number(`${parsed.whole}.${parsed.decimals || '0'}`)
    }
    const [low, high] = [value(groups['low']!), value(groups['high']!)]
    // 1914–18 is a range as well. With a hyphen only what grows is one: scores and parts of numbers are none.
    const grows = low < high || groups['high']!.length < groups['low']!.length && groups['low']!.length === 4
    // Three and four figures with a hyphen are a telephone number more often.
    const isTelephone = text.includes('-') && /^\d{3}$/u.test(groups['low']!) && /^\d{4}$/u.test(groups['high']!)
    return text.includes('–') || grows && !isTelephone && !/^0\d/u.test(groups['low']!) ? grammar.words.to : null
  })

const vulgar: Readonly<Record<string, readonly [number, number]>> = {
  '½': [1, 2], '⅓': [1, 3], '⅔': [2, 3], '¼': [1, 4], '¾': [3, 4], '⅕': [1, 5], '⅖': [2, 5], '⅗': [3, 5], '⅘': [4, 5], '⅙': [1, 6], '⅚': [5, 6], '⅐': [1, 7], '⅛': [1, 8], '⅜': [3, 8], '⅝': [5, 8], '⅞': [7, 8], '⅑': [1, 9], '⅒': [1, 10],
}

export const fractions = expansion(
  () => new RegExp(`(?<![\\p{L}\\p{N}]|\\d[.,/:]|/)(?:(?<whole>\\d{1,6})(?:[ \\u00a0]|(?=[${Object.keys(vulgar).join('')}])))??(?:(?<vulgar>[${Object.keys(vulgar).join('')}])|(?<top>\\d{1,2})[/⁄](?<bottom>[1-9]\\d{0,2}))(?![\\p{N}]|[/⁄.,]\\d)`, 'gu'),
  ({ groups = {} }, grammar) => {
    const [top, bottom] = groups['vulgar'] === undefined ? [Number(groups['top']), Number(groups['bottom'])] : vulgar[groups['vulgar']]!
    if (top < 1 || bottom < 2 || groups['vulgar'] === undefined && (top >= bottom || bottom > 100)) return null
    const fraction = fractionWords(top, bottom, grammar)
    if (groups['whole'] === undefined) return fraction
    const whole = grammar.numbers.cardinal(groups['whole'])
    if (grammar.primary === 'de') return bottom === 2 ? `${Number(groups['whole']) === 1 ? 'ein' : whole}einhalb` : `${whole} ${fraction}`
    if (bottom === 2) return `${whole} ${grammar.words.and} ${{ en: 'a half', fr: 'demi', es: 'medio' }[grammar.primary]}`
    return `${whole} ${grammar.words.and} ${fraction}`
  }, /[\d½⅓-⅞¼¾⅐⅑⅒]/u)

function fractionWords(top: number, bottom: number, { primary, numbers }: Grammar): string {
  const [count, ordinal] = [numbers.cardinal(String(top)), numbers.ordinal(String(bottom))]
  switch (primary) {
    case 'en': return `${count} ${bottom === 2 ? top === 1 ? 'half' : 'halves' : bottom === 4 ? top === 1 ? 'quarter' : 'quarters' : `${ordinal}${top === 1 ? '' : 's'}`}`
    case 'de': return bottom === 2 ? `${top === 1 ? 'ein' : count} halb${top === 1 ? '' : 'e'}` : `${top === 1 ? 'ein' : count} ${ordinal.replace(/e$/u, 'el').replace(/^./u, first => first.toUpperCase())}`
    case 'fr': return bottom === 2 ? top === 1 ? 'un demi' : `${count} demis` : `${count} ${({ 3: 'tiers', 4: `quart${top === 1 ? '' : 's'}` } as Record<number, string>)[bottom] ?? `${ordinal}${top === 1 ? '' : 's'}`}`
    default: {
      const one = top === 1 ? 'un' : count
      if (bottom === 2) return top === 1 ? 'medio' : `${count} medios`
      const part = ({ 3: 'tercio', 4: 'cuarto' } as Record<number, string>)[bottom] ?? (bottom === 100 ? 'centésimo' : bottom <= 10 ? ordinal : `${numbers.cardinal(String(bottom)).replace(/ y /u, 'i').replace(/(?<=un)o$|a$/u, '')}avo`)
      return `${one} ${part}${top === 1 ? '' : 's'}`
    }
  }
}

export const telephones = expansion(
  () => /(?<![\p{L}\p{N}])(?:\+\d{1,3}(?:[ \u00a0]?\(0\))?(?:[ \u00a0./-]?\(?\d{1,5}\)?){2,6}|\(0\d{1,5}\)(?:[ \u00a0./-]?\d{2,6}){1,4}|0\d{2,5}(?:[ \u00a0/-]\d{2,6}){1,4}|(?<=(?:[Tt]el(?:\.|efon|éfono|ephone)?|[Pp]hone|[Tt]él(?:\.|éphone)?|[Tt]eléfono)[.:]?[ \u00a0])\d[\d \u00a0/-]{4,}\d)(?![\p{L}\p{N}])/gu,
  ([text], grammar) => said(text.replace(/\(0\)/u, ''), 'telephone', grammar))

export const years = expansion(
  ({ number }) => new RegExp(`(?<![\\p{L}\\p{N}]|[£€$#] ?|\\d[.,:/]|[-−](?=${number})(?<![\\p{L}\\p{N}]-))(?<year>1[1-9]\\d\\d|20\\d\\d)(?<plural>s)?(?![\\p{L}\\p{N}%°£€$]|[.,:/]\\d)`, 'gu'),
  ({ groups = {} }, { primary, ...grammar }) => {
    const words = yearWords(groups['year']!, grammar)
    if (groups['plural'] === undefined) return words
    return primary !== 'en' ? null : words.replace(/(?:y|([^y]))$/u, (_, last: string | undefined) => last === undefined ? 'ies' : /[xs]$/u.test(last) ? `${last}es` : `${last}s`)
  })

/** Figures and capital letters in one: letters are said one by one. */
export const codes: RuleKind<{ readonly how: 'figures' | 'numbers' }> = {
  group: 'expansion', options: { how: { enum: ['figures', 'numbers'] } }, required: ['how'], defaults: { how: 'figures' },
  finder: ({ how }) => ({ text, language }) => {
    const numbers = /\d/u.test(text) ? numberWords(language) : null
    if (numbers === null) return []
    return [...text.matchAll(/(?<![\p{L}\p{N}])[\p{Lu}\d]+(?:[-/][\p{Lu}\d]+)*(?![\p{L}\p{N}])/gu)].filter(([code]) => /\p{Lu}/u.test(code) && /\d/u.test(code)).flatMap(match =>
      [...match[0].matchAll(/(?<letters>\p{Lu}+)|(?<figures>\d+)|[-/]/gu)].map((piece): RuleHit => {
        const [start, end] = [match.index + piece.index, match.index + piece.index + piece[0].length]
        if (piece.groups!['letters'] !== undefined) return { start, end, on: [{ kind: 'sayAs', interpretAs: 'characters' }] }
        if (piece.groups!['figures'] === undefined) return { start, end, spoken: ' ' }
        const words = how === 'numbers' && !/^0\d/u.test(piece[0]) ? numbers.cardinal(piece[0]) : [...piece[0]].map(numbers.cardinal).join(' ')
        return { start, end, spoken: apart(words, text, start, end) }
      }))
  },
}

/** What figures are left: as numbers, or one by one. In every language whose number words are known. */
export const numbers: RuleKind<{ readonly how: 'cardinal' | 'digits' }> = {
  group: 'expansion', options: { how: { enum: ['cardinal', 'digits'] } }, required: ['how'], defaults: { how: 'cardinal' },
  finder: ({ how }) => ({ text, language }) => {
    const words = /\d/u.test(text) ? numberWords(language) : null
    if (words === null) return []
    const { dot } = wordsFor(language)
    const [isSpanish, isGerman] = [primaryLanguage(language) === 'es', primaryLanguage(language) === 'de']
    // Versions and the like: more than one full stop, and no thousands.
    const pattern = new RegExp(`(?<sign>${sign})(?:(?<dotted>(?!\\d{1,3}(?:[.]\\d{3})+(?![\\d.]))\\d+(?:\\.\\d+){2,})|(?<figures>${numberPatterns[primaryLanguage(language)] ?? '\\d+(?:[.,]\\d+)?'}))`, 'gu')
    return [...text.matchAll(pattern)].map((match): RuleHit => {
      const { dotted, figures = '' } = match.groups!
      if (dotted !== undefined) return { start: match.index, end: match.index + match[0].length, spoken: apart(dotted.split('.').map(part => words.cardinal(part)).join(` ${dot} `), text, match.index, match.index + match[0].length) }
      const oneByOne = (run: string): string => [...run].map(words.cardinal).join(' ')
      const read = how === 'digits' || /^0\d/u.test(figures) || /\d{16}/u.test(figures) ? figures.replace(/\d+|[^\d]+/gu, run => /\d/u.test(run) ? oneByOne(run) : `, `) : cardinal(`${match.groups!['sign']}${figures}`, { language, numbers: words })
      const end = match.index + match[0].length
      const noun = /^[ \u00a0](\p{L}+)/u.exec(text.slice(end, end + 40))?.[1]
      // One before a noun goes with it; French leaves it to the noun's gender, which is not known here.
      if (how === 'cardinal' && noun !== undefined && /^[1-9]\d{0,5}$/u.test(match[0]) && (isSpanish || isGerman && /^\p{Lu}/u.test(noun))) return { start: match.index, end, spoken: apart(counted(figures, noun, { language, numbers: words }), text, match.index, end) }
      return { start: match.index, end, spoken: apart(read ?? oneByOne(figures.replace(/\D/gu, '')), text, match.index, end) }
    })
  },
}

export const abbreviations = expansion(
  ({ words }) => {
    const list = (table: Readonly<Record<string, string>>): string => Object.keys(table).sort((a, b) => b.length - a.length).map(escape).join('|')
    return new RegExp(`(?<![\\p{L}\\p{N}.])(?:(?<numbered>${list(words.beforeNumber)})(?=[ \\u00a0\\u202f]?(?:\\d|[IVXLC]+\\b))|(?<saint>St\\.)|(?<short>${list(words.abbreviations)})(?![\\p{L}\\p{N}]))`, 'gu')
  },
  ({ groups = {}, 0: written, index }, { words, primary }, { text }) => {
    const rest = text.slice(index + written.length, index + written.length + 12)
    if (groups['numbered'] !== undefined) return `${words.beforeNumber[groups['numbered']]!}${/^\d/u.test(rest) ? ' ' : ''}`
    if (groups['saint'] !== undefined) return primary === 'en' ? /^ \p{Lu}/u.test(rest) && !openingWords('en').has(/^ (\p{L}+)/u.exec(rest)![1]!) ? 'Saint' : /^(?:\s|$|[,;:)])/u.test(rest) ? 'Street' : null : words.abbreviations['St.'] ?? null
    const spoken = words.abbreviations[groups['short']!]!
    // One that stands before a name is said before a name only.
    if (/^(?:M\.|D\.|Me)$/u.test(written) && !/^ \p{Lu}/u.test(rest)) return null
    return spoken
  }, /\p{L}/u)

/** Signs between and beside words; those of sums between numbers only. */
export const symbols = expansion(
  ({ words }) => new RegExp(`[${Object.keys(words.symbols).map(sign => sign.replace(/[\\\]^-]/gu, '\\$&')).join('')}]`, 'gu'),
  ({ 0: sign, index }, { words }, { text }) => {
    const [prior, next] = [text.slice(Math.max(0, index - 2), index), text.slice(index + 1, index + 3)]
    if (/[+=×÷<>]/u.test(sign) && !(/[\p{L}\p{N})]\s?$/u.test(prior) && /^\s?[\p{L}\p{N}(]/u.test(next))) return null
    if (sign === '#' && !/^\d/u.test(next)) return null
    const space = (beside: boolean): string => beside ? ' ' : ''
    return `${space(/[^\s\p{L}\p{N}]$/u.test(prior) ? false : /[^\s]$/u.test(prior) && !/[\p{L}\p{N}]$/u.test(prior))}${words.symbols[sign]!}${space(/^[^\s\p{L}\p{N}.,;:!?)]/u.test(next))}`
  }, /[^\p{L}\p{M}\p{N}\s.,;:!?'’‘“”()—–-]/u)
