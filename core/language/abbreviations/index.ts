import de from 'cldr-segments-full/segments/de/suppressions.json' with { type: 'json' }
import en from 'cldr-segments-full/segments/en/suppressions.json' with { type: 'json' }
import es from 'cldr-segments-full/segments/es/suppressions.json' with { type: 'json' }
import fr from 'cldr-segments-full/segments/fr/suppressions.json' with { type: 'json' }
import it from 'cldr-segments-full/segments/it/suppressions.json' with { type: 'json' }
import pt from 'cldr-segments-full/segments/pt/suppressions.json' with { type: 'json' }
import ru from 'cldr-segments-full/segments/ru/suppressions.json' with { type: 'json' }
import { lookup } from '../../lookup'
import { czech } from './cs'
import { german } from './de'
import { greek } from './el'
import { english } from './en'
import { spanish } from './es'
import { french } from './fr'
import { italian } from './it'
import { dutch } from './nl'
import { polish } from './pl'
import { portuguese } from './pt'
import { russian } from './ru'
import type { SentenceWords } from './sentence-words'
import { swedish } from './sv'
import { turkish } from './tr'

/** Abbreviations with their full stop, in lower case but where the case tells (π.χ., π.Χ.), by what may follow them. */
export interface Abbreviations {
  /** Stand before a name: never end a sentence. */
  readonly beforeName: ReadonlySet<string>
  /** Stand before a number: do not end a sentence there. */
  readonly beforeNumber: ReadonlySet<string>
  /** End an enumeration, and before a capital letter the sentence. */
  readonly endsList: ReadonlySet<string>
  /** End a sentence only when a word follows that usually opens one. */
  readonly other: ReadonlySet<string>
}

interface SuppressionFile {
  segments: { segmentations: { SentenceBreak: { standard: readonly { suppression: string }[] } } }
}

/** Unicode CLDR 46, segments, by language. */
const suppressions: Readonly<Record<string, SuppressionFile>> = { de, en, es, fr, it, pt, ru }

/** Entries of the data that are ordinary words far more often than abbreviations. */
const ordinaryWords = new Set([
  'act.', 'all.', 'alt.', 'as.', 'by.', 'do.', 'hat.', 'job.', 'link.', 'long.', 'mart.', 'ok.', 'up.', 'in.', 'is.',
  'no.', 'on.', 'or.', 'to.', 'card.', 'jam.', 'mar.', 'sat.', 'sun.', 'var.', 'if.', 'be.', 'me.', 'all.', 'est.', 'art.',
])

const words: Readonly<Record<string, SentenceWords>> = {
  cs: czech, de: german, el: greek, en: english, es: spanish, fr: french, it: italian, nl: dutch, pl: polish, pt: portuguese, ru: russian, sv: swedish, tr: turkish,
}

/** Languages whose script has no abbreviations with a full stop: those among it are English. */
const withEnglish: ReadonlySet<string> = new Set(['ja', 'ko', 'zh'])

/** The language whose abbreviations stand in texts of a language. */
function abbreviating(language: string): string {
  const primary = primaryLanguage(language)
  return withEnglish.has(primary) ? 'en' : primary
}

function wordsOf(language: string): SentenceWords | undefined {
  return lookup(words, abbreviating(language))
}

const known = new Map<string, Abbreviations>()
const openings = new Map<string, ReadonlySet<string>>()

/** The abbreviations of a language (its primary subtag decides); none for a language without data. */
export function abbreviations(language: string): Abbreviations {
  const primary = abbreviating(language)
  let sets = known.get(primary)
  if (sets === undefined) {
    const own = wordsOf(language)
    const data = lookup(suppressions, primary)?.segments.segmentations.SentenceBreak.standard ?? []
    const ofData = data.map(entry => entry.suppression.toLowerCase().replaceAll(' ', '')).filter(entry => !ordinaryWords.has(entry))
    sets = {
      beforeName: setOf(own?.beforeName),
      beforeNumber: setOf(own?.beforeNumber),
      endsList: setOf(own?.endsList),
      other: new Set([...setOf(own?.other), ...ofData]),
    }
    known.set(primary, sets)
  }
  return sets
}

/** Words that usually open a sentence when they are written with a capital letter. */
export function openingWords(language: string): ReadonlySet<string> {
  const primary = abbreviating(language)
  let set = openings.get(primary)
  if (set === undefined) {
    set = setOf(wordsOf(language)?.opening)
    openings.set(primary, set)
  }
  return set
}

/** Which ordinals have a full stop in a language, also before a word with a capital letter. */
export function ordinalsWithFullStop(language: string): 'roman' | 'all' | undefined {
  return wordsOf(language)?.ordinals
}

function setOf(list: string | undefined): ReadonlySet<string> {
  return new Set(list?.split(' '))
}

/** `en` of `en-GB`. */
export function primaryLanguage(language: string): string {
  return language.split(/[-_]/u)[0]!.toLowerCase()
}
