import { primaryLanguage } from '../abbreviations'
import { german } from './de'
import { english } from './en'
import { spanish } from './es'
import { french } from './fr'
import type { RuleWords } from './rule-words'

export type { CurrencyNames, Names, RuleWords } from './rule-words'

const table: Readonly<Record<string, RuleWords>> = { en: english, de: german, fr: french, es: spanish }

/** The words of a language (BCP 47); null where there are none. */
export function ruleWords(language: string): RuleWords | null {
  const primary = primaryLanguage(language)
  return Object.hasOwn(table, primary) ? table[primary]! : null
}

/** The words of a language, or the English ones. */
export function wordsFor(language: string): RuleWords {
  return ruleWords(language) ?? english
}
