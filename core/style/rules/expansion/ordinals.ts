import { countedNouns } from '../../../language/german-nouns'
import { isFeminineInSpanish } from '../../../language/gender'
import { begins, expansion, type Form } from './form'
import { germanEnding, germanRowOf, rowSaid } from './german'

const english: Form = {
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<figures>\\d{1,3}(?:,\\d{3})+|\\d{1,12})(?:st|nd|rd|th|ST|ND|RD|TH)(?<plural>s)?(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => said(group('figures'), grammar.numbers.ordinal, words => `${words}${group('plural')}`),
}

/** From one to another: 1st–3rd. */
const englishDash: Form = {
  pattern: ({ primary }) => primary === 'en' ? '(?<=\\d(?:st|nd|rd|th))[–-](?=\\d{1,3}(?:st|nd|rd|th)(?!\\p{L}))' : null,
  say: ({ grammar }) => ` ${grammar.words.to} `,
}

const german: Form = {
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<figures>\\d{1,3})\\.(?= \\p{Ll})|(?<=(?:^|[^\\p{L}])(?:[Aa]m|[Vv]om|[Zz]u[mr]|[Bb]eim|[Ii]m|[Ii]ns|[Dd]er|[Dd]ie|[Dd]as|[Dd]en|[Dd]em|[Dd]es|[Jj]ede[rsmn]?|[Dd]iese[rsmn]?|(?:[Ee]|[Ss]e|[Mm]e|[Dd]e|[Kk]e)in(?:e[rmns]?)?|[Ii]hr(?:e[rmns]?)?|[Uu]nser(?:e[rmns]?)?) )(?<figures2>\\d{1,3})\\.(?= \\p{L}|[,;:)]|\\s*$)` : null,
  say: ({ group, before, grammar }) => said(group('figures') || group('figures2'), grammar.numbers.ordinal, words => germanEnding(words, before)),
}

/** In a row, behind an article or before a noun that is counted so: der 1., 2. und 3. Band, 1. und 2. Kapitel. */
const germanRow: Form = {
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<row>${germanRowOf('\\d{1,3}')})(?<figures>\\d{1,3})\\.(?= (?<noun>\\p{L}+))` : null,
  say: ({ group, before, grammar }) => {
    const ending = countedNouns[group('noun')]
    const isBehindArticle = /(?:^|[^\p{L}])(?:am|vom|zum|zur|beim|im|ins|d(?:er|ie|as|en|em|es)|(?:jede|diese|alle|eine|seine|ihre)[rsmn]?)\s$/iu.test(before)
    if (ending === undefined && !isBehindArticle) return null
    const one = (figures: string): string => said(figures, grammar.numbers.ordinal, words => isBehindArticle ? germanEnding(words, before) : `${words.replace(/e$/u, '')}${ending}`)!
    return /(?<!\d)0/u.test(`${group('row')}${group('figures')}`) ? null : `${rowSaid(group('row'), one)}${one(group('figures'))}`
  },
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
  pattern: ({ primary }) => primary === 'es' ? `${begins}(?<figures>\\d{1,3})(?<ending>\\.?(?:[ºª°][ˢs]?|er(?=[ \\u00a0]))|\\.er)(?![\\p{L}\\p{N}CF])` : null,
  say: ({ group, after, grammar }) => {
    const [figures, ending] = [group('figures'), group('ending')]
    const noun = /^[ \u00a0](\p{Ll}+)/u.exec(after)?.[1]
    if (ending.endsWith('°') && (noun === undefined || /^(?:de|en|a|y|bajo|sobre|al|por)$/u.test(noun))) return null
    return said(figures, grammar.numbers.ordinal, words => {
      if (ending.includes('ª')) return words.replace(/o\b/gu, 'a')
      // Primero and tercero lose their last letter before a masculine noun (RAE, Ortografía).
      return ending.endsWith('er') || noun !== undefined && ending.includes('º') && !isFeminineInSpanish(noun) && !/^(?:de|en|a|y|o|que|es|fue|izq|izquierda|dcha|derecha)$/u.test(noun) ? words.replace(/(primer|tercer)o$/u, '$1') : words
    })
  },
}

/** With the last letters of the word, as they are written beside the recommended forms: 1ra, 2do, 3er. */
const spanishLetters: Form = {
  pattern: ({ primary }) => primary === 'es' ? `${begins}(?<figures>\\d{1,2})(?<ending>r[oa]|er|d[oa]|t[oa]|m[oa]|v[oa]|n[oa])s?(?![\\p{L}\\p{N}])` : null,
  say: ({ group, whole, grammar }) => {
    const words = said(group('figures'), grammar.numbers.ordinal, each => each)
    // The letters must be those of the word: 5to is quinto, 5do is nothing.
    if (words === null || group('ending') !== 'er' && words.slice(-2, -1) !== group('ending')[0]) return null
    if (group('ending') === 'er') return /(?:primer|tercer)o$/u.test(words) ? words.slice(0, -1) : null
    return `${words.slice(0, -1)}${group('ending').at(-1)!}${whole.endsWith('s') ? 's' : ''}`
  },
}

function said(figures: string, ordinal: (figures: string) => string, fit: (words: string) => string): string | null {
  const bare = figures.replace(/,/gu, '')
  return /^0+$/u.test(bare) ? null : fit(ordinal(bare))
}

export const ordinals = expansion([english, englishDash, germanRow, german, germanCounted, french, spanish, spanishLetters])
