import * as cs from 'n2words/cs-CZ'
import * as da from 'n2words/da-DK'
import * as de from 'n2words/de-DE'
import * as enGb from 'n2words/en-GB'
import * as enUs from 'n2words/en-US'
import * as es from 'n2words/es-ES'
import * as fr from 'n2words/fr-FR'
import * as it from 'n2words/it-IT'
import * as nl from 'n2words/nl-NL'
import * as pl from 'n2words/pl-PL'
import * as pt from 'n2words/pt-PT'
import * as ru from 'n2words/ru-RU'
import { primaryLanguage } from './abbreviations'
import { madeOnce } from '../made-once'

/** Numbers as words in one language. */
export interface NumberWords {
  /** Of a whole number; figures only, however many. */
  readonly cardinal: (figures: string) => string
  /** Of a whole number from 1. */
  readonly ordinal: (figures: string) => string
  /** What is said for the decimal sign. */
  readonly point: string
  readonly minus: string
  /** The country's own currency (ISO 4217), and a sum of it such as `4.50`. */
  readonly currency: string
  readonly sum: (figures: string) => string
}

/** What `n2words` has wrong against CLDR's rule-based number formats and the grammars of the languages, put right in its result. */
type Mended = Partial<Record<'cardinal' | 'ordinal', (words: string) => string>>

interface Words {
  readonly toCardinal: (value: bigint) => string
  readonly toOrdinal: (value: bigint) => string
  readonly toCurrency: (value: string) => string
}

const asItIs = (text: string): string => text
const words = (list: Words, point: string, minus: string, currency: string, { cardinal = asItIs, ordinal = asItIs }: Mended = {}): NumberWords => ({
  cardinal: figures => cardinal(list.toCardinal(BigInt(figures))), ordinal: figures => ordinal(list.toOrdinal(BigInt(figures))), point, minus,
  currency, sum: figures => cardinal(list.toCurrency(figures)),
})

/** British English says *and* before the last two figures of an ordinal as of a cardinal. */
const british: Mended = {
  ordinal: text => text.replace(/\b(hundred|thousand|million|billion|trillion) (?!and |thousand|million|billion|trillion)((?:(?:twen|thir|for|fif|six|seven|eigh|nine)ty-)?(?:first|second|third|fourth|fifth|sixth|seventh|eighth|ninth)|(?:ten|eleven|twelf|(?:thir|four|fif|six|seven|eigh|nine)teen|(?:twen|thir|for|fif|six|seven|eigh|nine)tie)th)$/u, '$1 and $2'),
}
const german: Mended = { cardinal: text => text.replace(/einstausend/gu, 'eintausend'), ordinal: text => text.replace(/einstausend/gu, 'eintausend') }
const spanish: Mended = {
  cardinal: text => text.replace(/dieciseis/gu, 'dieciséis').replace(/veintiuno (?=mil|millones|billones)/gu, 'veintiún ').replace(/\buno (?=mil|millones|billones)/gu, 'un ').replace(/ mil millones(?=.* millones)/gu, ' mil'),
  ordinal: text => text.replace(/quincentésimo/gu, 'quingentésimo').replace(/septicentésimo/gu, 'septingentésimo').replace(/nonicentésimo/gu, 'noningentésimo')
    .replace(/décimo (primer|segund|tercer|cuart|quint|sext|séptim|noven)o/gu, 'decimo$1o').replace(/décimo octavo/gu, 'decimoctavo').replace(/^segundo milésimo/u, 'dos milésimo'),
}

const american = words(enUs, 'point', 'minus', 'USD')
const languages: Readonly<Record<string, NumberWords>> = {
  cs: words(cs, 'celá', 'minus', 'CZK'), da: words(da, 'komma', 'minus', 'DKK'), de: words(de, 'Komma', 'minus', 'EUR', german), en: words(enGb, 'point', 'minus', 'GBP', british), es: words(es, 'coma', 'menos', 'EUR', spanish),
  fr: words(fr, 'virgule', 'moins', 'EUR'), it: words(it, 'virgola', 'meno', 'EUR'), nl: words(nl, 'komma', 'min', 'EUR'), pl: words(pl, 'przecinek', 'minus', 'PLN'),
  pt: words(pt, 'vírgula', 'menos', 'EUR'), ru: words(ru, 'запятая', 'минус', 'RUB'),
}

/** The words of a language (BCP 47); null where they are not known. */
export function numberWords(language: string): NumberWords | null {
  if (/^en-(?:us|ca|ph)\b/iu.test(language)) return american
  const primary = primaryLanguage(language)
  return Object.hasOwn(languages, primary) ? languages[primary]! : null
}

/** The sign before decimals, as a language (BCP 47) writes it. */
export const decimalSign = madeOnce(language => new Intl.NumberFormat(language).formatToParts(1.5).find(part => part.type === 'decimal')?.value ?? '.')

/** A number as a language writes it: its sign, whole part and decimals as figures; null when it is none. */
export function parseNumber(text: string, language: string): { readonly minus: boolean, readonly whole: string, readonly decimals: string } | null {
  const point = decimalSign(language)
  const bare = text.trim().replace(/[\s\u00a0\u202f'’]/gu, '')
  const match = point === ','
    ? /^([-−–+]?)(\d{1,3}(?:\.\d{3})+|\d+)(?:,(\d+))?$/u.exec(bare)
    : /^([-−–+]?)(\d{1,3}(?:,\d{3})+|\d+|(?=\.\d))(?:\.(\d+))?$/u.exec(bare)
  // A single sign that the language does not use is the decimal sign all the same: 3.5 in German.
  const loose = match ?? /^([-−–+]?)(\d+)(?:[.,](\d+))?$/u.exec(bare)
  if (loose === null) return null
  return { minus: /[-−–]/u.test(loose[1]!), whole: loose[2]!.replace(/\D/gu, ''), decimals: loose[3] ?? '' }
}
