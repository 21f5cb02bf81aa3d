import { matchesOf } from '../../../matches'
import { inPairs } from '../../../language/counted'
import { hasWordShape } from '../../../language/word-shape'
import { numberWords } from '../../../language/numbers'
import { primaryLanguage } from '../../../language/abbreviations'
import { isPlural } from './english'
import { apart, type RuleHit, type RuleKind } from '../rule-kind'
import { inPlural, oneByOne } from './say'

const hows = ['figures', 'pairs', 'numbers'] as const
type How = (typeof hows)[number]

/** Letters and figures in one, with the plural of English; or figures before one letter: B12, T-34, COVID-19, F-16s, 3D. */
const code = /(?<![\p{L}\p{N}]|[.,:](?=\d))(?<code>(?:\p{Lu}\p{Ll}(?=-?\d)|[\p{Lu}\d])+(?:[-/][\p{Lu}\d]+)*)(?<plural>s(?![\p{L}\p{N}]))?(?![\p{L}\p{N}]|[.,:]\d)/gu

/** Years of accounts (FY2021) are none, nor figures with the sign of a large number (50K); 4K and a 10K run are. */
function isCode(text: string, after: string): boolean {
  if (!/\p{Lu}/u.test(text) || !/\d/u.test(text) || /^FY\d+(?:[-/]\d+)?$/u.test(text)) return false
  if (/^\d+K$/u.test(text)) return /^[248]K$/u.test(text) || /^ (?:run|race|walk|runs|races|time)\b/u.test(after)
  return !/^\d+[MBT]$/u.test(text) || !isPlural(/^ (\p{Ll}+)/u.exec(after)?.[1] ?? '')
}

/**
 * Figures and capital letters in one. Letters are said one by one, unless they make a word (COVID-19); two figures are a number, more of them one by one, in pairs or as a number.
 */
export const codes: RuleKind<{ readonly how: How }> = {
  group: 'expansion', options: { how: { enum: hows } }, required: ['how'], defaults: { how: 'figures' },
  finder: ({ how }) => ({ text, language }) => {
    const numbers = /\d/u.test(text) ? numberWords(language) : null
    if (numbers === null) return []
    const primary = primaryLanguage(language)
    const figuresSaid = (figures: string): string => {
      if (figures.startsWith('0')) return oneByOne(figures, { numbers })
      if (figures.length <= 2 || how === 'numbers') return numbers.cardinal(figures)
      if (how === 'pairs' && figures.length <= 4) return primary === 'en' ? inPairs(figures, { numbers }) : figures.length <= 3 ? numbers.cardinal(figures) : oneByOne(figures, { numbers })
      return oneByOne(figures, { numbers })
    }
    return [...matchesOf(code, text)].filter(({ groups, index, 0: whole }) => isCode(groups!['code']!, text.slice(index + whole.length, index + whole.length + 30))).flatMap(match => {
      const [whole, plural] = [match.groups!['code']!, match.groups!['plural']]
      const pieces = [...whole.matchAll(/(?<letters>\p{L}+)|(?<figures>\d+)|[-/]/gu)]
      return pieces.flatMap((piece, index): RuleHit[] => {
        const isLast = index === pieces.length - 1
        const [start, end] = [match.index + piece.index, match.index + piece.index + piece[0].length]
        const { letters, figures } = piece.groups!
        if (letters !== undefined) return hasWordShape(letters) ? [] : [{ start, end, on: [{ kind: 'sayAs', interpretAs: 'characters' }] }]
        if (figures === undefined) return [{ start, end, spoken: ' ' }]
        const words = figuresSaid(figures)
        if (isLast && plural !== undefined) return [{ start, end: end + 1, spoken: apart(primary === 'en' ? inPlural(words) : words, text, start, end + 1) }]
        return [{ start, end, spoken: apart(words, text, start, end) }]
      })
    })
  },
}
