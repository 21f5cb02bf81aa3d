import { cardinal } from '../../../language/counted'
import { yearWords } from '../../../language/say-as'
import { parseNumber } from '../../../language/numbers'
import { isPlural } from './english'
import { begins, expansion, type Form, type Grammar } from './form'
import { word } from './say'

/** Names that are written in figures: 9/11, 24/7, 50/50. */
const named: Form = {
  needs: /\//u,
  pattern: () => `${begins}(?:24/7(?:/365)?|9/11|7/7|\\d{2}/\\d{2}(?= (?:vision|split|chance|deal|Sehkraft|Chance))|50/50|80/20|90/10|60/40|70/30|20/20|16/9|4/4|2/2)(?![\\d/]|[.,]\\d)`,
  say: ({ whole, grammar }) => {
    if (whole === '50/50') return { en: 'fifty-fifty', de: 'fünfzig-fünfzig', fr: 'cinquante-cinquante', es: 'cincuenta-cincuenta' }[grammar.primary]!
    return whole.split('/').map(each => each === '365' ? 'three sixty-five' : word(each, grammar)).join(' ')
  },
  isWeak: ({ whole, grammar }) => !/^(?:24\/7|50\/50)/u.test(whole) && !(whole === '9/11' && grammar.primary === 'en'),
}

/** Blood pressure and the like: 120/80. */
const over: Form = {
  needs: /\//u,
  pattern: () => `${begins}(?<top>[1-2]\\d{2})/(?<bottom>[4-9]\\d|1[0-4]\\d)(?![\\d/]|[.,]\\d)`,
  say: ({ group, grammar }) => Number(group('top')) <= Number(group('bottom')) ? null : `${word(group('top'), grammar)} ${{ en: 'over', de: 'zu', fr: 'sur', es: 'sobre' }[grammar.primary]} ${word(group('bottom'), grammar)}`,
  isWeak: () => true,
}

/** Behind a word that says that two numbers with a colon are a ratio, and no time. */
export const behindRatioWord = ({ words }: Pick<Grammar, 'words'>): string => `(?<!\\p{L})(?:${words.ratios})(?: (?:of|von|de|à|a|at|is|was|im|with|by|about|volume))*[ \\u00a0]`

/** Behind the name of who makes standards. */
const behindStandard = /(?<!\p{L})(?:ISO|IEC|DIN|EN|BS|ASTM|NF|UNE)[ \u00a0-]$/u

/** The sides of a ratio: 3:1, 1:50,000; times are none, but behind a word that says so. */
const ratio: Form = {
  needs: /[:∶]/u,
  pattern: ({ number, words }) => `${begins}(?:(?<=${behindRatioWord({ words })})(?<left>\\d+)[ \\u00a0]?[:∶][ \\u00a0]?(?<right>${number})|(?<left2>\\d+(?:[.,]\\d+)?)[ \\u00a0]?[:∶][ \\u00a0]?(?<right2>\\d(?!\\d)|\\d{3,}(?!\\d)|\\d{1,3}(?:[.,\\u00a0 ]\\d{3})+(?!\\d)|[6-9]\\d(?!\\d))|(?<left3>2[5-9]|[3-9]\\d|\\d{3,})[:∶](?<right3>\\d{2}(?!\\d)))(?![\\p{N}:]|[.,]\\d)`,
  ignoreCase: true,
  say: ({ group, whole, before, after, grammar }) => {
    const said = (text: string): string | null => {
      const parsed = parseNumber(text, grammar.language)
      return parsed === null || parsed.decimals !== '' ? null : grammar.numbers.cardinal(parsed.whole)
    }
    const [left, right] = [said(group('left') || group('left2') || group('left3')), said(group('right') || group('right2') || group('right3'))]
    // The year of a standard: ISO 9001:2015.
    if (behindStandard.test(before) && left !== null && /^(?:19|20)\d\d$/u.test(group('right2'))) return `${left} ${yearWords(group('right2'), grammar)}`
    // A division has its result behind it, and the sides of a screen are said like those of a board.
    const between = /^ ?= ?\d/u.test(after) ? grammar.words.symbols['÷']! : /^(?:16:9|16:10|21:9)$/u.test(whole) && /^ (?:screen|display|format|picture|video|image|monitor|television|TV)s?\b/u.test(after) ? { de: 'zu', fr: 'sur', en: 'by', es: 'por' }[grammar.primary]! : grammar.words.ratio
    return left === null || right === null ? null : `${left} ${between} ${right}`
  },
}

/** Of three sides: a mix of 1:2:3. */
const ofThree: Form = {
  needs: /\d:\d{1,2}:\d/u,
  pattern: () => `${begins}(?<first>\\d{1,2}):(?<second>\\d):(?<third>\\d{1,2})(?![\\p{N}:]|[.,]\\d)`,
  say: ({ group, grammar }) => [group('first'), group('second'), group('third')].map(each => word(each, grammar)).join(` ${grammar.words.ratio} `),
}

/** A hyphen is a minus where a result stands behind: 5 - 3 = 2. */
const difference: Form = {
  needs: / - /u,
  pattern: ({ number }) => `${begins}(?<left>${number}) - (?<right>${number})(?= ?= ?[-−]?\\d)`,
  say: ({ group, grammar }) => {
    const [left, right] = [cardinal(group('left'), grammar), cardinal(group('right'), grammar)]
    return left === null || right === null ? null : `${left} ${grammar.numbers.minus} ${right}`
  },
}

/** What is bet: odds of 7-2, 7/2 odds. */
const odds: Form = {
  needs: /odds/iu,
  pattern: ({ primary }) => primary === 'en' ? '(?=\\d)(?:(?<=(?<!\\p{L})odds (?:(?:of|at|are|were|is|was) )?)(?<left>\\d{1,4})[-–/](?<right>\\d{1,3})|(?<![\\p{L}\\p{N}]|\\d[.,:/-])(?<left2>\\d{1,4})[-–/](?<right2>\\d{1,3})(?= odds\\b))(?![\\p{N}/–-]|[.,]\\d)' : null,
  ignoreCase: true,
  say: ({ group, grammar }) => `${word(group('left') || group('left2'), grammar)} to ${word(group('right') || group('right2'), grammar)}`,
}

/** Results of matches, behind a word that says so: won 3–2, a 4-0 victory. */
const score: Form = {
  needs: /\d[–:-]\d/u,
  pattern: ({ words }) => `(?=\\d)(?:(?<=(?<!\\p{L})(?:${words.scores})(?: (?:by|the|them|us|it|mit|a|por|sur|par|of|was|is|were|with|im|am|gegen|\\p{Lu}\\p{L}+)){0,2}[ \\u00a0])|(?<=(?<!\\p{L})(?:an?|the|eine?n?|un|una|le|el|la|or|\\() ?(?:\\p{Ll}+ )?)(?=\\d{1,3}[–-]\\d{1,3} (?:${words.scores}|home|away|Sieg|Niederlage|series|record|majority|vote)))(?<left>\\d{1,3})(?:[–-]|(?<colon>:))(?<right>\\d{1,3})(?![\\p{N}:%–-]|[.,]\\d|[ \\u00a0](?:points|runs|goals|wickets|votes|years|percent|per))`,
  ignoreCase: true,
  say: ({ group, after, grammar }) => {
    const [left, right] = [group('left'), group('right')]
    // In German results are written with a colon; elsewhere that is a time or a ratio. “Beat 2–3 eggs” is a range.
    if ((group('colon') !== '') !== (grammar.primary === 'de') || isPlural(/^ (\p{Ll}+)/u.exec(after)?.[1] ?? '')) return null
    const said = (figures: string): string => Number(figures) === 0 && grammar.language === 'en-GB' ? 'nil' : word(figures, grammar)
    const link = { en: ' ', de: ' zu ', fr: ' à ', es: ' a ' }[grammar.primary]!
    return `${said(left)}${link}${said(right)}`
  },
  isWeak: () => true,
}

export const ratios = expansion([named, difference, ofThree, odds, over, score, ratio])
