import { primaryLanguage } from '../../../language/abbreviations'
import { isFeminineInSpanish } from '../../../language/gender'
import { expansion, oneOf, type Form, type Grammar } from './form'

/** Letters with *and* between them: R&D, AT&T. */
const initials: Form = {
  pattern: () => '(?<![\\p{L}\\p{N}])(?<left>\\p{Lu}{1,3})&(?<right>\\p{Lu}{1,3})(?![\\p{L}\\p{N}])',
  say: ({ group, grammar }) => [{ written: group('left'), letters: true }, { written: '&', spoken: grammar.words.symbols['&']! }, { written: group('right'), letters: true }],
}

/** What is said for a sign of nearness. In Spanish it goes with the noun that is counted: unas cincuenta personas. */
export function aboutSaid(after: string, { language, words }: Pick<Grammar, 'language' | 'words'>): string {
  const noun = primaryLanguage(language) === 'es' ? /^(?:\s?[\d.,\u00a0 ]+)?[ \u00a0](\p{Ll}+)/u.exec(after)?.[1] : undefined
  return noun !== undefined && isFeminineInSpanish(noun) ? words.about.replace(/os$/u, 'as') : words.about
}

/** Before a number or a word: ±5, ≥ 10, <5, ~. */
const prefix: Form = {
  pattern: () => '(?<=^|[\\s(\\[“"„«–—])[±≥≤<>≈∼~](?=[\\p{L}\\p{N}]|[ \\u00a0][\\p{L}\\p{N}])(?<![\\p{L}\\p{N})][ \\u00a0][±≥≤<>≈∼~](?=[ \\u00a0]))',
  say: ({ whole, after, grammar }) => `${/[≈~∼]/u.test(whole) ? aboutSaid(after, grammar) : grammar.words.symbols[whole]!}${/^\s/u.test(after) ? '' : ' '}`,
}

/** Signs between and beside words; those of sums between numbers only. */
const sign: Form = {
  pattern: ({ words }) => oneOf(Object.keys(words.symbols)),
  say: ({ whole, before, after, grammar: { words, primary } }) => {
    if (whole === '·' && !/^\s[\p{L}\d][\p{L}\d\s-]{0,40}(?:=|gleich|equals|égale|igual)/u.test(after) && !/[\p{N})]\s?$|(?:^|[^\p{L}])\p{L}\s?$/u.test(before) && !/^\s?(?:\p{N}|zehn|ten|dix|diez)/u.test(after)) return null
    // A minus that touches a number is said by the number already.
    if (/[+−=×·÷<>≠≡]/u.test(whole) && !(/[\p{L}\p{N})]\s?$/u.test(before) && /^\s?[\p{L}\p{N}(√]/u.test(after))) return null
    if (whole === '#' && !/^\d/u.test(after)) return null
    const beside = (isSo: boolean): string => isSo ? ' ' : ''
    // In Spanish *y* is *e* before its own sound: Pérez e Hijos (RAE, Ortografía).
    if (whole === '&' && primary === 'es' && /^\s?h?i(?![aeo])/iu.test(after)) return 'e'
    return `${beside(/[^\s\p{L}\p{N}(\[“"„«]$/u.test(before))}${words.symbols[whole]!}${beside(/^[^\s\p{L}\p{N}.,;:!?)]/u.test(after))}`
  },
}

export const symbols = expansion([initials, prefix, sign], { needs: /[^\p{L}\p{M}\p{N}\s.,;:!?'’‘“”()—–-]/u })
