import { passageKinds, type PassageKind } from '../script/script'
import { wholeText } from '../script/whole-text'
import { primaryLanguage } from '../language/abbreviations'
import { ruleKinds, type RuleHit, type RuleKindName, type RuleText } from './rules'

/** Where a rule counts: everywhere without; what is given must all be so. */
export interface RuleScope {
  readonly kinds?: readonly PassageKind[]
  /** BCP 47; `en` counts for all its variants. */
  readonly languages?: readonly string[]
  /** Parts whose label has this text, in any case. */
  readonly partLabel?: string
}

type OptionsOf<Name extends RuleKindName> = Parameters<(typeof ruleKinds)[Name]['finder']>[0]

/** One rule of a house style. Plain data. */
export type Rule = {
  [Name in RuleKindName]: {
    /** Unique in its house style. */
    readonly id: string
    readonly on: boolean
    readonly does: Name
    /** What it is for, in the producer's own words. */
    readonly note?: string
    readonly scope?: RuleScope
  } & OptionsOf<Name>
}[RuleKindName]

export type { RuleHit } from './rules'
export type RuleOf<Name extends RuleKindName> = Extract<Rule, { does: Name }>

export const maximumRules = 200

export const ruleNames = Object.keys(ruleKinds) as readonly RuleKindName[]

const scopeSchema = {
  type: 'object', minProperties: 1, additionalProperties: false,
  properties: {
    kinds: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: passageKinds } },
    languages: { type: 'array', minItems: 1, maxItems: 50, items: { type: 'string', minLength: 2, maxLength: 35, pattern: '^[A-Za-z0-9-]+$' } },
    partLabel: { type: 'string', minLength: 1, maxLength: 300, pattern: wholeText },
  },
} as const

/** JSON Schema of a rule. `discriminator`: its `does`. */
export const ruleSchema = {
  type: 'object',
  required: ['does'],
  discriminator: { propertyName: 'does' },
  oneOf: ruleNames.map(name => ({
    type: 'object',
    required: ['id', 'on', 'does', ...ruleKinds[name].required],
    additionalProperties: false,
    properties: {
      id: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText }, on: { type: 'boolean' }, does: { const: name },
      note: { type: 'string', minLength: 1, maxLength: 300, pattern: wholeText }, scope: scopeSchema, ...ruleKinds[name].options,
    },
  })),
} as const

/** A rule of a kind with the kind's starting values. */
export function newRule(id: string, does: RuleKindName, on = true): Rule {
  return { id, on, does, ...ruleKinds[does].defaults } as unknown as Rule
}

/** What is asked about a passage before a rule looks at its text. */
export interface RuleSubject {
  readonly kind: PassageKind
  readonly partLabel?: string
}

export interface PreparedRule {
  readonly id: string
  /** It decides what is said, not only when and how fast. */
  readonly isOfWording: boolean
  /** Hits in order, none over another. */
  readonly find: (text: RuleText, subject: RuleSubject) => RuleHit[]
}

/** The rules of a house style that are on, made ready to look at texts. */
export interface RuleSet {
  readonly rules: readonly PreparedRule[]
  /** All that their hits depend on, besides the text. */
  readonly input: string
  /** The label of a part counts. */
  readonly readsLabels: boolean
}

export const noRules: RuleSet = { rules: [], input: '', readsLabels: false }

/** Throws a problem for a rule that cannot be followed: an own pattern that is none. */
export function prepareRules(rules: readonly Rule[]): RuleSet {
  const active = rules.filter(rule => rule.on)
  if (active.length === 0) return noRules
  return {
    rules: active.map(prepare),
    input: JSON.stringify(active.map(({ note: _, ...rule }) => rule)),
    readsLabels: active.some(({ scope }) => scope?.partLabel !== undefined),
  }
}

/** Those that decide what is said: the words that are spoken are the same without the others. */
export function ofWording(set: RuleSet): RuleSet {
  return { ...set, rules: set.rules.filter(({ isOfWording }) => isOfWording) }
}

/** Throws a problem for a rule that cannot be followed, also while it is off. */
export function checkRule(rule: Rule): void {
  prepare(rule)
}

function prepare({ id, on: _, does, note: __, scope, ...options }: Rule): PreparedRule {
  const find = (ruleKinds[does].finder as unknown as (options: object) => (text: RuleText) => RuleHit[])(options)
  const { group } = ruleKinds[does]
  return { id, isOfWording: group !== 'pauses' && group !== 'pace', find: (text, subject) => isIn(scope, text.language, subject) ? find(text) : [] }
}

function isIn(scope: RuleScope | undefined, language: string, { kind, partLabel = '' }: RuleSubject): boolean {
  if (scope === undefined) return true
  return scope.kinds?.includes(kind) !== false
    && scope.languages?.some(each => each.toLowerCase() === language.toLowerCase() || each.toLowerCase() === primaryLanguage(language)) !== false
    && (scope.partLabel === undefined || partLabel.toLowerCase().includes(scope.partLabel.toLowerCase()))
}

/** Where a rule was switched off by itself: a place of the written text. */
export interface HitOff {
  readonly rule: string
  readonly start: number
  readonly end: number
}
