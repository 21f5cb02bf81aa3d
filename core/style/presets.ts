import type { Manuscript } from '../manuscript/manuscript'
import { newRule, ruleNames, type Rule } from './rule'
import { ruleKinds, type RuleKindName } from './rules'

export const presetNames = ['book', 'course', 'articles', 'plain'] as const
export type PresetName = (typeof presetNames)[number]

/** Kinds that a list has when it is made anew; own rules come as they are needed. */
const listed = ruleNames.filter(name => name !== 'own' && name !== 'pace')
const kindsOf = (...groups: readonly string[]): RuleKindName[] => listed.filter(name => groups.includes(ruleKinds[name].group))

/** What a production begins with: by the kind of what came in. */
export function presetFor({ units }: Pick<Manuscript, 'units'>): PresetName {
  return units[0] === undefined ? 'book' : units[0].kind === 'slide' ? 'course' : 'articles'
}

const on: Readonly<Record<PresetName, readonly RuleKindName[]>> = {
  book: ['emoji', 'addresses', 'citations', 'footnoteMarks', 'repeatedPunctuation', 'ligatures', 'ellipsis', 'dash', 'colon', 'semicolon', 'comma', 'quotation', 'unendedLine', ...kindsOf('expansion')],
  course: ['emoji', 'addresses', 'citations', 'footnoteMarks', 'repeatedPunctuation', 'ligatures', 'ellipsis', 'dash', 'colon', 'semicolon', 'comma', 'quotation', 'parenthesis', 'unendedLine', ...kindsOf('expansion')],
  articles: [...kindsOf('cleaning').filter(name => name !== 'quotes'), 'ellipsis', 'dash', 'colon', 'semicolon', 'comma', 'quotation', 'unendedLine', ...kindsOf('expansion')],
  plain: [],
}

/** Where the trade differs (common practice): a book says round figures and heights as people do, a course says every figure and unit in full. */
const ownOptions: Readonly<Record<PresetName, Readonly<Partial<Record<RuleKindName, object>>>>> = {
  book: { codes: { how: 'pairs' }, numbers: { hundreds: true } },
  course: { measures: { how: 'full' } },
  articles: { emoji: { how: 'names' } },
  plain: {},
}

/**
 * The rules of a preset, under the names of their kinds. *Book* cleans and writes out, with codes in pairs and round hundreds as such; *course* rests more, says headings, numbers
 * and codes a little slower, and units in full; *articles* reads emoji by name and addresses by their domain; *plain* has all of them switched off.
 */
export function presetRules(name: PresetName): Rule[] {
  const rules = listed.map(kind => newRule(kind, kind, on[name].includes(kind)))
  const pace: Rule[] = name !== 'course' ? [] : [
    { ...newRule('pace-headings', 'pace'), ratePercent: 92, of: 'passage', scope: { kinds: ['title', 'heading'] } } as Rule,
    { ...newRule('pace-numbers', 'pace'), ratePercent: 90, of: 'numbers' } as Rule,
  ]
  const chosen = rules.map((rule): Rule => ({ ...rule, ...ownOptions[name][rule.does] }) as Rule)
  const firstPause = chosen.findIndex(rule => ruleKinds[rule.does].group === 'pauses')
  return [...chosen.slice(0, firstPause), ...pace, ...chosen.slice(firstPause)]
}
