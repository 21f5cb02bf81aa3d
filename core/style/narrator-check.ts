import { primaryLanguage } from '../language/abbreviations'
import { sentenceSpans, trimSpan } from '../language/sentences'
import { madeOnce } from '../made-once'
import { countWords } from '../manuscript/manuscript'
import { directionSpans, writtenText } from '../script/content'
import type { Passage } from '../script/script'

// What a text says that a synthetic narrator should not (common practice): it is nobody's colleague, makes no small talk, and its listeners see nothing.

export const narratorReasons = ['first-person-plural', 'aside', 'idle-phrase', 'abbreviation', 'long-sentence', 'table', 'list-in-sentence', 'unseen-reference'] as const
export type NarratorReason = (typeof narratorReasons)[number]

export interface NarratorFinding {
  readonly passageId: string
  /** Its place in the written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
  readonly reason: NarratorReason
}

/** What to do about each, as a sentence for the user. */
export const narratorAdvice: Readonly<Record<NarratorReason, string>> = {
  'first-person-plural': 'The voice speaks of itself as one of a team. Name who does it, or say “you”.',
  'aside': 'An aside is lost on a listener. Make it a sentence of its own, or leave it out.',
  'idle-phrase': 'This says nothing, and sounds odd from a synthetic voice. Leave it out.',
  'abbreviation': 'An abbreviation may be misread, and is hard to follow. Write it out.',
  'long-sentence': 'A listener cannot go back in it. Divide it.',
  'table': 'The row of a table is read as it stands. Say in a sentence what it shows, or leave it out.',
  'list-in-sentence': 'So many things in one sentence are hard to keep. Make them a list.',
  'unseen-reference': 'The listener cannot see it. Say what is there, or leave it out.',
}

/** Longest sentence that is not reported, in words. */
export const defaultLongestSentence = 35
const mostCommas = 6

type Words = Readonly<Record<'first-person-plural' | 'idle-phrase' | 'abbreviation' | 'unseen-reference', string>>

/** By language, as alternatives of a pattern: this product's own lists. In other languages only sentences, tables and asides are judged. */
const phrases: Readonly<Record<string, Words>> = {
  en: {
    'first-person-plural': 'we|us|our|ours|ourselves|we’re|we’ll|we’ve|we’d|let’s',
    'idle-phrase': 'you know|basically|actually|of course|so to speak|needless to say|to be honest|at the end of the day|by the way|as I said|believe it or not|funnily enough|I mean|let me tell you|trust me|kind of|sort of',
    'abbreviation': 'e\\.g\\.|i\\.e\\.|etc\\.|approx\\.|vs\\.|cf\\.|incl\\.|resp\\.|viz\\.|et al\\.|fig\\.|vol\\.|pp?\\. ?\\d|w/o?|b/c|asap|n\\.b\\.',
    'unseen-reference': 'see (?:above|below|overleaf|page \\d+|the (?:figure|table|box|picture|diagram|chart|map|next page))|(?:the )?(?:figure|table|chart|diagram|picture|photo|photograph|box|list|example|map) (?:above|below|opposite|overleaf|on the (?:left|right|next page))|click (?:here|on|the)|(?:the|this) link|as (?:shown|pictured|illustrated|you can see)(?: (?:above|below|here))?|(?:the )?following (?:figure|table|chart|diagram|picture)|on the (?:left|right) of (?:the )?(?:page|screen|slide)|highlighted in (?:red|green|blue|yellow|bold)|in bold|scroll (?:up|down)',
  },
  de: {
    'first-person-plural': 'wir|uns|unser|unsere|unserem|unseren|unserer|unseres',
    'idle-phrase': 'sozusagen|eigentlich|natürlich|ehrlich gesagt|übrigens|wie gesagt|im Grunde|quasi|am Ende des Tages|glauben Sie mir|irgendwie',
    'abbreviation': 'z\\. ?B\\.|d\\. ?h\\.|usw\\.|u\\. ?a\\.|ca\\.|bzw\\.|evtl\\.|ggf\\.|vgl\\.|Abb\\.|inkl\\.|etc\\.|s\\. ?[ou]\\.|S\\. ?\\d',
    'unseen-reference': 'siehe (?:oben|unten|Seite \\d+|Abbildung|Tabelle|Bild)|(?:die )?(?:Abbildung|Tabelle|Grafik) (?:oben|unten|rechts|links)|klicken Sie (?:hier|auf)|wie (?:oben|unten) (?:gezeigt|dargestellt|abgebildet)|(?:die )?folgende (?:Abbildung|Tabelle|Grafik)|auf der (?:linken|rechten) Seite',
  },
  fr: {
    'first-person-plural': 'nous|notre|nos|nôtres?',
    'idle-phrase': 'bien sûr|en fait|pour ainsi dire|à vrai dire|au fait|comme je l’ai dit|vous savez|disons|croyez-moi|en quelque sorte',
    'abbreviation': 'p\\. ?ex\\.|c\\.-à-d\\.|etc\\.|env\\.|cf\\.|fig\\.|p\\. ?\\d',
    'unseen-reference': 'voir (?:ci-dessus|ci-dessous|page \\d+|la figure|le tableau)|(?:la figure|le tableau|le graphique) ci-(?:dessus|dessous|contre)|cliquez (?:ici|sur)|comme (?:indiqué|illustré|montré) ci-(?:dessus|dessous)',
  },
  es: {
    'first-person-plural': 'nosotros|nosotras|nuestro|nuestra|nuestros|nuestras|nos',
    'idle-phrase': 'por supuesto|en realidad|por así decirlo|a decir verdad|por cierto|como decía|ya saben?|digamos|créame|de alguna manera',
    'abbreviation': 'p\\. ?ej\\.|etc\\.|aprox\\.|vs\\.|cf\\.|fig\\.|pág\\.|págs\\.',
    'unseen-reference': 'véase (?:arriba|abajo|la página \\d+|la figura|la tabla)|ver (?:arriba|abajo|la figura|la tabla)|(?:la figura|la tabla|el gráfico) (?:anterior|siguiente|de (?:arriba|abajo))|haga clic (?:aquí|en)|como se (?:muestra|ve) (?:arriba|abajo|aquí)',
  },
}

const findersOf = madeOnce((language): readonly (readonly [NarratorReason, RegExp])[] => Object.entries(phrases[primaryLanguage(language)] ?? {}).map(([reason, list]) =>
  [reason as NarratorReason, new RegExp(`(?<![\\p{L}\\p{N}])(?:${list.replace(/’/gu, '[’\']')})(?![\\p{L}\\p{N}])`, reason === 'abbreviation' ? 'gu' : 'giu')] as const))

/**
 * What of the passages of a part is not for a synthetic narrator, in the order of the text. What somebody else says, in quotation marks, in
 * a quotation or in a role of its own, is not judged but for its length; what is left unspoken not at all.
 */
export function checkNarration(passages: readonly Passage[], language: string, longestSentence = defaultLongestSentence): NarratorFinding[] {
  return passages.flatMap(passage => {
    const text = writtenText(passage.content)
    const own = passage.language ?? language
    const found: NarratorFinding[] = []
    const silent = directionSpans(passage.content).filter(span => span.direction.kind === 'leftOut')
    const add = (reason: NarratorReason, start: number, end: number): void => {
      if (!silent.some(span => span.start <= start && span.end >= end)) found.push({ passageId: passage.id, start, end, reason })
    }
    if (passage.kind === 'tableRow') add('table', 0, text.length)
    for (const span of sentenceSpans(text, own)) {
      const { start, end } = trimSpan(text, span)
      const sentence = text.slice(start, end)
      if (countWords(sentence) > longestSentence) add('long-sentence', start, end)
      else if (passage.kind !== 'tableRow' && (sentence.match(/[,;]\s/gu)?.length ?? 0) >= mostCommas) add('list-in-sentence', start, end)
    }
    if (passage.kind !== 'quotation' && passage.role === undefined) {
      const quoted = [...text.matchAll(/[“„«"][^”“„«»"]*[”“»"]/gu)].map(match => [match.index, match.index + match[0].length] as const)
      const isQuoted = (at: number): boolean => quoted.some(([from, to]) => at >= from && at < to)
      for (const [reason, finder] of findersOf(own)) {
        // In capitals it is the name of a country.
        for (const match of text.matchAll(finder)) if (match[0] !== 'US' && !isQuoted(match.index)) add(reason, match.index, match.index + match[0].length)
      }
      for (const match of text.matchAll(/\(([^()]*)\)/gu)) if (countWords(match[1]!) > 3 && !isQuoted(match.index)) add('aside', match.index, match.index + match[0].length)
    }
    return found.sort((a, b) => a.start - b.start || b.end - a.end)
  })
}
