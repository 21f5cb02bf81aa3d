import type { Rule } from '#core/style/rule'
import type { PresetName } from '#core/style/presets'
import type { RuleGroup, RuleKindName } from '#core/style/rules'
import { directionNames, kindNames } from '~/utils/words'
import type { DirectionValue } from '#core/script/directions'
import { languageName } from '~/utils/format'

/** What rules are called, and what each does. */
export const ruleTexts: Readonly<Record<RuleKindName, { readonly name: string, readonly what: string }>> = {
  emoji: { name: 'Emoji and pictographs', what: 'Leaves them unspoken, or reads their names.' },
  addresses: { name: 'Web and e-mail addresses', what: 'Leaves them unspoken, says the domain only, or reads them out.' },
  citations: { name: 'Citations', what: 'Leaves out figures in square brackets, such as [12].' },
  footnoteMarks: { name: 'Footnote marks', what: 'Leaves out raised figures, asterisks and daggers behind words.' },
  repeatedPunctuation: { name: 'Repeated punctuation', what: 'Says !!! and ---- as one sign.' },
  ligatures: { name: 'Ligatures', what: 'Reads ﬁ as fi. Soft hyphens are never spoken.' },
  quotes: { name: 'Quotation marks', what: 'Leaves them out of what the voice is given.' },
  own: { name: 'Own rule', what: 'Says something else for a text or pattern, or rests there.' },
  pace: { name: 'Pace', what: 'Says passages, numbers or quotations slower or faster.' },
  ellipsis: { name: 'Rest at an ellipsis', what: 'Rests behind … and three full stops.' },
  dash: { name: 'Rest at a dash', what: 'Rests behind a dash between words.' },
  colon: { name: 'Rest at a colon', what: 'Rests behind a colon.' },
  semicolon: { name: 'Rest at a semicolon', what: 'Rests behind a semicolon.' },
  comma: { name: 'Rest at a comma', what: 'Rests behind a comma between words, always as long.' },
  quotation: { name: 'Rest at a quotation', what: 'Rests between what is quoted and “she said”.' },
  parenthesis: { name: 'Rest around brackets', what: 'Rests before and behind what stands in brackets.' },
  unendedLine: { name: 'Rest at unended lines', what: 'Rests where a line ends without punctuation.' },
  abbreviations: { name: 'Abbreviations', what: 'Says e.g. as “for example”, Dr. Elm as “Doctor Elm”, Elm Dr. as “Elm Drive”.' },
  dates: { name: 'Dates', what: 'Says 14 March 1987 and 2024-05-12 in words.' },
  times: { name: 'Times', what: 'Says 7:30 as “seven thirty”.' },
  telephones: { name: 'Telephone numbers', what: 'Says their figures one by one, in groups; those of an ISBN too.' },
  ratios: { name: 'Ratios and scores', what: 'Says 3:1 as “three to one”, won 3–2 as “three two”, 24/7 as “twenty-four seven”.' },
  fractions: { name: 'Fractions', what: 'Says 1/2 as “one half”.' },
  ranges: { name: 'Ranges', what: 'Says 10–15 as “ten to fifteen”.' },
  currencies: { name: 'Sums of money', what: 'Says £4.50, $5–10m and a $5 bill in words.' },
  temperatures: { name: 'Temperatures', what: 'Says 30 °C as “thirty degrees Celsius”.' },
  percentages: { name: 'Percentages', what: 'Says 12% as “twelve per cent”.' },
  measures: { name: 'Units', what: 'Says 3 kg as “three kilograms”, 10×15 as “ten by fifteen”, 3h 20m as hours and minutes.' },
  formulas: { name: 'Formulas and exponents', what: 'Says 10⁶ as “ten to the power of six”, H₂O letter by letter.' },
  ordinals: { name: 'Ordinals', what: 'Says 21st as “twenty-first”.' },
  romanNumerals: { name: 'Roman numerals', what: 'Where they number something: Chapter IV, Henry VIII, World War II.' },
  codes: { name: 'Codes', what: 'Says letters one by one, two figures as a number: B12, COVID-19, AB-210.' },
  years: { name: 'Years', what: 'Says 1987 as “nineteen eighty-seven”, 2008/09 and the ’90s in words.' },
  numbers: { name: 'Numbers', what: 'Says what figures are left as numbers, or one by one.' },
  symbols: { name: 'Symbols', what: 'Says & as “and”, § as “section”.' },
}

/** What the house styles to start from do. */
export const presetTexts: Readonly<Record<PresetName, string>> = {
  book: 'Book: clean, write out, even rests at marks', course: 'Course: rest more, headings, numbers and codes slower, units in full', articles: 'Articles: emoji by name, addresses by domain', plain: 'Plain: every rule off',
}

export const groupNames: Readonly<Record<RuleGroup, string>> = { cleaning: 'Cleaning', pauses: 'Rests', pace: 'Pace', own: 'Own', expansion: 'Writing out' }

export const hows: Readonly<Partial<Record<RuleKindName, readonly { readonly value: string, readonly title: string }[]>>> = {
  emoji: [{ value: 'drop', title: 'unspoken' }, { value: 'names', title: 'by their names' }],
  addresses: [{ value: 'drop', title: 'unspoken' }, { value: 'domain', title: 'the domain only' }, { value: 'read', title: 'read out' }],
  codes: [{ value: 'figures', title: 'three figures and more one by one' }, { value: 'pairs', title: 'figures in pairs: AB-210 is two ten' }, { value: 'numbers', title: 'figures as numbers' }],
  measures: [{ value: 'short', title: 'heights short: five foot ten' }, { value: 'full', title: 'heights in full: five feet ten inches' }],
  numbers: [{ value: 'cardinal', title: 'as numbers' }, { value: 'digits', title: 'figures one by one' }],
}

const paceNames = { passage: 'all of it', numbers: 'numbers', quotations: 'quotations' } as const

/** What is set about a rule, in a few words. */
export function ruleSummary(rule: Rule): string {
  const parts: string[] = []
  if ('how' in rule && rule.how !== undefined) parts.push(hows[rule.does]?.find(({ value }) => value === rule.how)?.title ?? rule.how)
  if (rule.does === 'numbers' && rule.hundreds === true) parts.push('1500 bees are fifteen hundred')
  if ('restMs' in rule) parts.push(`${rule.restMs} ms`)
  if (rule.does === 'pace') parts.push(`${rule.ratePercent} %, ${paceNames[rule.of]}`)
  if (rule.does === 'own') {
    parts.push(`${rule.isPattern === true ? '/' : '“'}${rule.find}${rule.isPattern === true ? '/' : '”'}${rule.say === undefined ? '' : rule.say === '' ? ' unspoken' : ` → “${rule.say}”`}`)
    if (rule.restBeforeMs !== undefined || rule.restAfterMs !== undefined) parts.push(`rest ${(rule.restBeforeMs ?? 0) + (rule.restAfterMs ?? 0)} ms`)
    if (rule.emphasis !== undefined) parts.push('emphasis')
    if (rule.ratePercent !== undefined) parts.push(`${rule.ratePercent} %`)
  }
  const { kinds, languages, partLabel } = rule.scope ?? {}
  if (kinds !== undefined) parts.push(`in ${kinds.map(kind => kindNames[kind].toLowerCase()).join(', ')}`)
  if (languages !== undefined) parts.push(`in ${languages.map(languageName).join(', ')}`)
  if (partLabel !== undefined) parts.push(`in parts with “${partLabel}”`)
  return parts.join(' · ')
}

/** What a step adds besides words. */
export function addedText(restMs: number | undefined, how: readonly DirectionValue[] | null | undefined): string {
  return [...(restMs === undefined || restMs === 0 ? [] : [`rest ${restMs} ms`]), ...(how ?? []).map(each => each.kind === 'prosody' ? `pace ${each.rate}` : each.kind === 'phoneme' ? `/${each.ph}/` : each.kind === 'sayAs' ? 'letter by letter' : directionNames[each.kind].toLowerCase())].join(', ')
}
