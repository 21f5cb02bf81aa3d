import * as cleaning from './cleaning'
import * as expansion from './expansion'
import { own } from './own'
import { pace } from './pace'
import * as pauses from './pauses'

/** Every kind of rule, in the order of a list that is made anew. */
export const ruleKinds = {
  emoji: cleaning.emoji, addresses: cleaning.addresses, citations: cleaning.citations, footnoteMarks: cleaning.footnoteMarks, repeatedPunctuation: cleaning.repeatedPunctuation, ligatures: cleaning.ligatures, quotes: cleaning.quotes,
  own, pace,
  ellipsis: pauses.ellipsis, dash: pauses.dash, colon: pauses.colon, semicolon: pauses.semicolon, comma: pauses.comma, quotation: pauses.quotation, parenthesis: pauses.parenthesis, unendedLine: pauses.unendedLine,
  abbreviations: expansion.abbreviations, dates: expansion.dates, times: expansion.times, telephones: expansion.telephones, ratios: expansion.ratios, fractions: expansion.fractions, ranges: expansion.ranges, currencies: expansion.currencies, temperatures: expansion.temperatures, percentages: expansion.percentages, measures: expansion.measures,
  formulas: expansion.formulas, ordinals: expansion.ordinals, romanNumerals: expansion.romanNumerals, codes: expansion.codes, years: expansion.years, numbers: expansion.numbers, symbols: expansion.symbols,
} as const

export type RuleKindName = keyof typeof ruleKinds
export { ruleGroups, type RuleGroup, type RuleHit, type RuleText } from './rule-kind'
