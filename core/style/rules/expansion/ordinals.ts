import { countedNouns } from '../../../language/german-nouns'
import { isFeminineInSpanish } from '../../../language/gender'
import { begins, expansion, type Form } from './form'
import { germanEnding } from './german'

const english: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<figures>\\d{1,3}(?:,\\d{3})+|\\d{1,12})(?:st|nd|rd|th|ST|ND|RD|TH)(?<plural>s)?(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => said(group('figures'), grammar.numbers.ordinal, words => `${words}${group('plural')}`),
}

const german: Form = {
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<figures>\\d{1,3})\\.(?= \\p{Ll})|(?<=(?:^|[^\\p{L}])(?:[Aa]m|[Vv]om|[Zz]u[mr]|[Bb]eim|[Ii]m|[Ii]ns|[Dd]er|[Dd]ie|[Dd]as|[Dd]en|[Dd]em|[Dd]es|[Jj]ede[rsmn]?|[Dd]iese[rsmn]?|(?:[Ee]|[Ss]e|[Mm]e|[Dd]e|[Kk]e)in(?:e[rmns]?)?|[Ii]hr(?:e[rmns]?)?|[Uu]nser(?:e[rmns]?)?) )(?<figures2>\\d{1,3})\\.(?= \\p{L}|[,;:)]|\\s*$)` : null,
  say: ({ group, before, grammar }) => said(group('figures') || group('figures2'), grammar.numbers.ordinal, words => germanEnding(words, before)),
}

/** Without an article: 1. Kapitel, 3. Stock. */
const germanCounted: Form = {
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<figures>\\d{1,3})\\.(?= (?<noun>${Object.keys(countedNouns).join('|')})(?!\\p{L}))` : null,
  say: ({ group, grammar }) => said(group('figures'), grammar.numbers.ordinal, words => `${words.replace(/e$/u, '')}${countedNouns[group('noun')]!}`),
}

const french: Form = {
  pattern: ({ primary }) => primary === 'fr' ? `${begins}(?<figures>\\d{1,4})(?<ending>ers?|res?|ères?|èmes?|ièmes?|es?|nde?s?|ds?)(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => {
    const [figures, ending] = [group('figures'), group('ending')]
    const plural = ending.endsWith('s') ? 's' : ''
    if (figures === '1') return `${/^(?:re|ère)/u.test(ending) ? 'première' : 'premier'}${plural}`
    if (/^n?d/u.test(ending)) return figures === '2' ? `second${/^nde/u.test(ending) ? 'e' : ''}${plural}` : null
    return said(figures, grammar.numbers.ordinal, words => `${words}${plural}`)
  },
}

/** 1.º, 2.ª, 3.er; the sign of degree is used in the place of º as well. */
const spanish: Form = {
  pattern: ({ primary }) => primary === 'es' ? `${begins}(?<figures>\\d{1,3})(?<ending>\\.?(?:[ºª°][ˢs]?|er(?=[ \\u00a0])))(?![\\p{L}\\p{N}CF])` : null,
  say: ({ group, after, grammar }) => {
    const [figures, ending] = [group('figures'), group('ending')]
    const noun = /^[ \u00a0](\p{Ll}+)/u.exec(after)?.[1]
    if (ending.endsWith('°') && (noun === undefined || /^(?:de|en|a|y|bajo|sobre|al|por)$/u.test(noun))) return null
    return said(figures, grammar.numbers.ordinal, words => {
      if (ending.includes('ª')) return words.replace(/o\b/gu, 'a')
      // Primero and tercero lose their last letter before a masculine noun (RAE, Ortografía).
      return ending.endsWith('er') || noun !== undefined && ending.includes('º') && !isFeminineInSpanish(noun) && !/^(?:de|en|a|y|o|que|es|fue)$/u.test(noun) ? words.replace(/(primer|tercer)o$/u, '$1') : words
    })
  },
}

function said(figures: string, ordinal: (figures: string) => string, fit: (words: string) => string): string | null {
  const bare = figures.replace(/,/gu, '')
  return /^0+$/u.test(bare) ? null : fit(ordinal(bare))
}

export const ordinals = expansion([english, german, germanCounted, french, spanish])
