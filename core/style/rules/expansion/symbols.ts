import { expansion, oneOf, type Form } from './form'

/** Letters with *and* between them: R&D, AT&T. */
const initials: Form = {
  pattern: () => '(?<![\\p{L}\\p{N}])(?<left>\\p{Lu}{1,3})&(?<right>\\p{Lu}{1,3})(?![\\p{L}\\p{N}])',
  say: ({ group, grammar }) => [{ written: group('left'), letters: true }, { written: '&', spoken: grammar.words.symbols['&']! }, { written: group('right'), letters: true }],
}

/** Before a number or a word: ±5, ≥ 10, <5, ~. */
const prefix: Form = {
  pattern: () => '(?<=^|[\\s(\\[“"„«–—])[±≥≤<>≈∼~](?=[\\p{L}\\p{N}]|[ \\u00a0][\\p{L}\\p{N}])(?<![\\p{L}\\p{N})][ \\u00a0][±≥≤<>≈∼~](?=[ \\u00a0]))',
  say: ({ whole, after, grammar: { words } }) => `${{ '≈': words.about, '~': words.about, '∼': words.about }[whole] ?? words.symbols[whole]!}${/^\s/u.test(after) ? '' : ' '}`,
}

/** Signs between and beside words; those of sums between numbers only. */
const sign: Form = {
  pattern: ({ words }) => oneOf(Object.keys(words.symbols)),
  say: ({ whole, before, after, grammar: { words } }) => {
    if (whole === '·' && !/[\p{N})]\s?$|(?:^|[^\p{L}])\p{L}\s?$/u.test(before) && !/^\s?(?:\p{N}|zehn|ten|dix|diez)/u.test(after)) return null
    // A minus that touches a number is said by the number already.
    if (/[+−=×·÷<>≠≡]/u.test(whole) && !(/[\p{L}\p{N})]\s?$/u.test(before) && /^\s?[\p{L}\p{N}(√]/u.test(after))) return null
    if (whole === '#' && !/^\d/u.test(after)) return null
    const beside = (isSo: boolean): string => isSo ? ' ' : ''
    return `${beside(/[^\s\p{L}\p{N}(\[“"„«]$/u.test(before))}${words.symbols[whole]!}${beside(/^[^\s\p{L}\p{N}.,;:!?)]/u.test(after))}`
  },
}

export const symbols = expansion([initials, prefix, sign], { needs: /[^\p{L}\p{M}\p{N}\s.,;:!?'’‘“”()—–-]/u })
