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
  parenthesis: { name: 'Rest around brackets', what: 'Rests before and behind what stands in brackets.' },
  unendedLine: { name: 'Rest at unended lines', what: 'Rests where a line ends without punctuation.' },
  abbreviations: { name: 'Abbreviations', what: 'Says e.g. as “for example”, Dr. as “Doctor”.' },
  dates: { name: 'Dates', what: 'Says 14 March 1987 and 2024-05-12 in words.' },
  times: { name: 'Times', what: 'Says 7:30 as “seven thirty”.' },
  telephones: { name: 'Telephone numbers', what: 'Says their figures one by one, in groups.' },
  fractions: { name: 'Fractions', what: 'Says 1/2 as “one half”.' },
  ranges: { name: 'Ranges', what: 'Says 10–15 as “ten to fifteen”.' },
  currencies: { name: 'Sums of money', what: 'Says £4.50 and 3 million € in words.' },
  temperatures: { name: 'Temperatures', what: 'Says 30 °C as “thirty degrees Celsius”.' },
  percentages: { name: 'Percentages', what: 'Says 12% as “twelve per cent”.' },
  measures: { name: 'Units', what: 'Says 3 kg as “three kilograms”.' },
  ordinals: { name: 'Ordinals', what: 'Says 21st as “twenty-first”.' },
  romanNumerals: { name: 'Roman numerals', what: 'In headings and behind names: Chapter IV, Henry VIII.' },
  codes: { name: 'Codes', what: 'Says letters and figures of B12 one by one.' },
  years: { name: 'Years', what: 'Says 1987 as “nineteen eighty-seven”.' },
  numbers: { name: 'Numbers', what: 'Says what figures are left as numbers, or one by one.' },
  symbols: { name: 'Symbols', what: 'Says & as “and”, § as “section”.' },
}

/** What the house styles to start from do. */
export const presetTexts: Readonly<Record<PresetName, string>> = {
  book: 'Book: clean, write out, rest at dashes', course: 'Course: rest more, headings and numbers slower', articles: 'Articles: emoji by name, addresses by domain', plain: 'Plain: every rule off',
}

export const groupNames: Readonly<Record<RuleGroup, string>> = { cleaning: 'Cleaning', pauses: 'Rests', pace: 'Pace', own: 'Own', expansion: 'Writing out' }

export const hows: Readonly<Partial<Record<RuleKindName, readonly { readonly value: string, readonly title: string }[]>>> = {
  emoji: [{ value: 'drop', title: 'unspoken' }, { value: 'names', title: 'by their names' }],
  addresses: [{ value: 'drop', title: 'unspoken' }, { value: 'domain', title: 'the domain only' }, { value: 'read', title: 'read out' }],
  codes: [{ value: 'figures', title: 'figures one by one' }, { value: 'numbers', title: 'figures as numbers' }],
  numbers: [{ value: 'cardinal', title: 'as numbers' }, { value: 'digits', title: 'figures one by one' }],
}

const paceNames = { passage: 'all of it', numbers: 'numbers', quotations: 'quotations' } as const

/** What is set about a rule, in a few words. */
export function ruleSummary(rule: Rule): string {
  const parts: string[] = []
  if ('how' in rule) parts.push(hows[rule.does]?.find(({ value }) => value === rule.how)?.title ?? rule.how)
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
