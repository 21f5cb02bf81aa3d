import { matchesOf } from '../../../matches'
import { primaryLanguage } from '../../../language/abbreviations'
import { largeSaid } from '../../../language/money'
import { numberWords } from '../../../language/numbers'
import { cardinal, counted, inPairs } from '../../../language/counted'
import { aboutSaid } from './symbols'
import { apart, type RuleHit, type RuleKind } from '../rule-kind'
import { ruleWords, wordsFor } from '../../../language/words'
import { numberPattern, oneOf, sign } from './form'
import { inPlural, oneByOne } from './say'

export interface NumberOptions {
  readonly how: 'cardinal' | 'digits'
  /** Hundreds that are written without a sign between them are said as such: 1500 bees are fifteen hundred. English. */
  readonly hundreds?: true
}

/** Words before a number that is a name: room 210 is two ten. English (common practice). */
const namedByPairs = /(?:^|[^\p{L}])(?:room|rooms|suite|studio|boeing|form|flight|bus|route|highway|gate|apartment|apt|channel|hangar|interstate|exit)\s$/iu

/** Where a full stop parts the numbers of a version in English: v1.2, Python 3.12. In other languages it always does: Kap. 3.12. */
const behindVersion = '(?<=(?<![\\p{L}\\p{N}])(?:[Vv]|[Vv]ersi[oó]n|[Rr]elease|[Ff]irmware|iOS|macOS|Android|Python|Java|Node|Ubuntu|Debian|Windows|Linux)[ \\u00a0]?)'

/** Behind the number of a section: 401(k). */
const paragraph = /^\((?:\p{Ll}|\d)\)/u

/** What figures are left: as numbers, or one by one. In every language whose number words are known. */
export const numbers: RuleKind<NumberOptions> = {
  group: 'expansion', options: { how: { enum: ['cardinal', 'digits'] }, hundreds: { const: true } }, required: ['how'], defaults: { how: 'cardinal' },
  finder: ({ how, hundreds }) => ({ text, language }) => {
    const words = /\d/u.test(text) ? numberWords(language) : null
    if (words === null) return []
    const primary = primaryLanguage(language)
    const own = wordsFor(language)
    return [...matchesOf(patternOf(language), text)].map((match): RuleHit => {
      const { sign: ahead = '', number, near, version, dotted, decimals, figures = '', large, plural } = match.groups!
      const [start, end] = [match.index, match.index + match[0].length]
      const [before, after] = [text.slice(Math.max(0, start - 40), start), text.slice(end, end + 40)]
      const doubt = isInDoubt(match[0], before, after, primary) ? { weak: true as const } : {}
      const hit = (spoken: string): RuleHit => ({ start, end, spoken: apart(spoken, text, start, end), ...doubt })
      if (dotted !== undefined) {
        const groups = dotted.split('.')
        // Three figures in each group are thousands in other languages, and here where somebody writes so.
        if (primary === 'en' && version === undefined && groups.length > 2 && groups.slice(1).every(group => group.length === 3) && groups[0]!.length < 4) return { ...hit(words.cardinal(groups.join(''))), weak: true }
        const isAddress = groups.length === 4 && groups.every(group => Number(group) < 256)
        return hit(`${version === undefined ? '' : `${own.version} `}${groups.map(group => isAddress && group.length === 3 ? oneByOne(group, { numbers: words }) : words.cardinal(group)).join(` ${isAddress ? own.dot : own.point} `)}`)
      }
      const lead = `${number === undefined ? '' : `${own.symbols['#']!} `}${near === undefined ? '' : `${aboutSaid(after, { language, words: own })} `}${version === undefined ? '' : `${own.version} `}`
      if (decimals !== undefined) return hit(`${lead}${/[-−–]/u.test(ahead) ? `${words.minus} ` : ahead === '+' ? `${own.symbols['+']!} ` : ''}${words.point} ${oneByOne(decimals, { numbers: words })}`)
      if (how === 'digits' || /^0\d/u.test(figures) || /\d{16}/u.test(figures)) return hit(`${lead}${figures.replace(/\d+|[^\d]+/gu, run => /\d/u.test(run) ? oneByOne(run, { numbers: words }) : ', ')}`)
      const asNumber = cardinal(`${ahead}${figures}`, { language, numbers: words }) ?? oneByOne(figures, { numbers: words })
      if (large !== undefined) return hit(`${lead}${largeSaid(figures, large, { language, primary, numbers: words, words: own }) ?? asNumber}`)
      if (plural !== undefined && /^10{2,3}$/u.test(figures)) return hit(figures === '100' ? 'hundreds' : 'thousands')
      if (plural !== undefined) return hit(inPlural(primary === 'en' && /^\d{3}$/u.test(figures) && !figures.endsWith('00') ? inPairs(figures, { numbers: words }) : asNumber))
      if (primary === 'en' && /^\d{3,4}$/u.test(match[0]) && (namedByPairs.test(before) || paragraph.test(after))) return hit(`${inPairs(figures, { numbers: words })}${paragraph.test(after) ? ' ' : ''}`)
      if (hundreds === true && primary === 'en' && /^[1-9][1-9]00$/u.test(match[0]) && /^[ \u00a0]\p{Ll}/u.test(after)) return hit(`${words.cardinal(figures.slice(0, 2))} hundred`)
      return hit(`${lead}${/^\d{1,3}(?:[. \u00a0\u202f]?\d{3})*$/u.test(match[0]) ? beforeNoun(figures.replace(/\D/gu, ''), before, after, { language, primary, numbers: words }) ?? asNumber : asNumber}`)
    })
  },
}

/** A postcode as likely as a count, in German; in English figures with a comma that groups nothing: 1,5. */
function isInDoubt(figures: string, before: string, after: string, primary: string): boolean {
  return primary === 'de' && /^\d{5}$/u.test(figures) && /^ \p{Lu}/u.test(after) || primary === 'en' && (/^,\d/u.test(after) || /\d,$/u.test(before))
}

/** German words that a number stands behind as a name. */
const behindReference = /(?:^|[^\p{L}])(?:Absatz|Abs\.|Artikel|Art\.|Paragraf|§|Satz|Nummer|Nr\.|Kapitel|Kap\.|Band|Bd\.|Teil|Seite|S\.|Platz|Gruppe|Stufe|Klasse|Phase|Zimmer|Gleis|Tor|Kanal|Typ|Version)[ \u00a0]$/u

/** A number in the gender of the noun that it counts; null where the noun is none that it agrees with. */
function beforeNoun(figures: string, before: string, after: string, how: { readonly language: string, readonly primary: string, readonly numbers: NonNullable<ReturnType<typeof numberWords>> }): string | null {
  // Ein-Liter-Flasche, ein bis zwei Liter.
  if (how.primary === 'de' && figures === '1' && /^(?:-| bis \d+ )\p{Lu}/u.test(after)) return 'ein'
  const noun = /^[ \u00a0](\p{L}+)(?: (\p{L}+))?/u.exec(after)
  if (noun === null || Number(figures) === 0) return null
  switch (how.primary) {
    case 'es':
    case 'fr': return /^\p{Ll}/u.test(noun[1]!) ? counted(figures, noun[1]!, how) : null
    case 'de': {
      const counts = /^\p{Lu}/u.test(noun[1]!) ? noun[1]! : /^\p{Lu}/u.test(noun[2] ?? '') && /(?:e|er|es|en)$/u.test(noun[1]!) && !/^(?:der|oder|aber|über|unter|wider|hinter|neben|gegen|es|wegen|zwischen)$/u.test(noun[1]!) ? noun[2]! : null
      // Absatz 1 GG: the number belongs to the word before it, and so it does before letters that are a name.
      if (counts === null || Number(figures) !== 1 || /^\p{Lu}{2,}$/u.test(counts) || behindReference.test(before)) return null
      const one = counted(figures, counts, how)
      // Behind a preposition with the dative.
      return !/(?:^|[^\p{L}])(?:mit|von|bei|aus|zu|nach|seit)\s$/iu.test(before) ? one : one === 'eine' ? 'einer' : 'einem'
    }
    default: return null
  }
}

const patterns = new Map<string, RegExp>()

function patternOf(language: string): RegExp {
  let pattern = patterns.get(language)
  if (pattern === undefined) {
    const primary = primaryLanguage(language)
    const magnitudes = Object.keys(ruleWords(language)?.magnitudes ?? {}).filter(name => /^(?:K|M|B|T|bn|mn|tn|Tsd\.|Mio\.|Mrd\.|Md|Mds)$/u.test(name))
    // Where the signs of large numbers are not known, or there are none.
    const large = magnitudes.length === 0 ? '(?!)' : oneOf(magnitudes)
    const plural = primary === 'en' ? '(?<plural>s)(?![\\p{L}\\p{N}])' : '(?!)'
    pattern = new RegExp(`(?:(?<number>#|№ ?)|(?<near>[~∼] ?)|(?<version>(?<![\\p{L}\\p{N}])v))?(?<sign>${sign})(?:(?<dotted>${primary === 'en' ? '' : '(?!\\d{1,3}(?:[.]\\d{3})+(?!\\d|\\.\\d))'}\\d+(?:\\.\\d+){2,}|${primary === 'en' ? behindVersion : ''}\\d{1,3}\\.\\d{1,2}(?!\\d|[.,:]\\d))|(?<![\\p{L}\\p{N}.])\\.(?<decimals>\\d+)|(?<figures>${numberPattern(primary)})(?:[ \\u00a0]?(?<large>${large})(?![\\p{L}\\p{N}])|${plural})?)`, 'gu')
    patterns.set(language, pattern)
  }
  return pattern
}
