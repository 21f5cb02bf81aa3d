import { passageKinds, type Passage, type PassageKind } from '../script/script'
import { wholeText } from '../script/whole-text'
import { presetRules, type PresetName } from './presets'
import { maximumRules, ruleSchema, type Rule } from './rule'

/** Silence around a passage, in integer milliseconds, 0…`maximumRestMs`. */
export interface Rests {
  readonly beforeMs: number
  readonly afterMs: number
}

/** The rules that clean, pause and expand a script. Plain data: stored, shown, edited and exchanged as JSON. */
export interface HouseStyle {
  readonly version: 1
  readonly name: string
  readonly rests: Readonly<Record<PassageKind, Rests>>
  /** Of headings of one level (`1` is the highest), where they differ from those of all headings. */
  readonly headingRests?: Readonly<Record<string, Rests>>
  /** Between two sentences of one passage. */
  readonly sentenceRestMs: number
  /** In the order in which they act: each sees what those before it have made. */
  readonly rules: readonly Rule[]
}

export const maximumRestMs = 20_000

/**
 * Rests around headings are *common practice* (about 100 ms before, 250 ms after), and so is that a change of scene rests longer than a
 * paragraph; the values of the others are this product's own.
 */
export const defaultHouseStyle: HouseStyle = {
  version: 1,
  name: 'Plain narration',
  rests: {
    title: { beforeMs: 0, afterMs: 1000 },
    heading: { beforeMs: 100, afterMs: 250 },
    paragraph: { beforeMs: 0, afterMs: 600 },
    listItem: { beforeMs: 0, afterMs: 350 },
    quotation: { beforeMs: 600, afterMs: 600 },
    tableRow: { beforeMs: 0, afterMs: 350 },
    note: { beforeMs: 400, afterMs: 600 },
    sceneBreak: { beforeMs: 0, afterMs: 1200 },
  },
  sentenceRestMs: 300,
  rules: presetRules('plain'),
}

const presetTitles: Readonly<Record<PresetName, string>> = { book: 'Book narration', course: 'Course narration', articles: 'Article narration', plain: defaultHouseStyle.name }

/** The house style that a preset makes. */
export function presetStyle(preset: PresetName): HouseStyle {
  return { ...defaultHouseStyle, name: presetTitles[preset], rules: presetRules(preset) }
}

/** What rests depend on. */
export type Rested = Pick<Passage, 'kind' | 'level'>

/** The rests around a passage. */
export function restsOf({ rests, headingRests }: HouseStyle, { kind, level }: Rested): Rests {
  return kind === 'heading' && level !== undefined ? headingRests?.[level] ?? rests.heading : rests[kind]
}

/** The rest between two neighbouring passages of a part: the longest of after(A) and before(B). Behind the last item of a list it is that behind a paragraph, if that is longer. */
export function restBetween(style: HouseStyle, before: Rested, after: Rested): number {
  const endsList = before.kind === 'listItem' && after.kind !== 'listItem'
  return Math.max(restsOf(style, before).afterMs, restsOf(style, after).beforeMs, endsList ? style.rests.paragraph.afterMs : 0)
}

/** The rest that a scene break stands for, with nothing to be said in it. */
export function sceneBreakMs({ rests: { sceneBreak } }: HouseStyle): number {
  return Math.max(sceneBreak.beforeMs, sceneBreak.afterMs)
}

/** What of a house style an edit can change, each by itself; a rule under its id with `rule ` before it. */
export type StyleFields = Readonly<Record<PassageKind, Rests>> & Pick<HouseStyle, 'name' | 'sentenceRestMs'> & {
  readonly headingRests: Readonly<Record<string, Rests>>
  readonly ruleOrder: readonly string[]
  readonly [rule: `rule ${string}`]: Rule | null
}

export function styleFields({ rests, headingRests = {}, name, sentenceRestMs, rules }: HouseStyle): StyleFields {
  return { ...rests, headingRests, name, sentenceRestMs, ruleOrder: rules.map(rule => rule.id), ...Object.fromEntries(rules.map(rule => [`rule ${rule.id}`, rule])) }
}

/** A house style with other values of some fields. */
export function withStyleFields(style: HouseStyle, fields: Partial<StyleFields>): HouseStyle {
  const all = { ...styleFields(style), ...fields }
  const rests = Object.fromEntries(passageKinds.map(kind => [kind, all[kind]])) as HouseStyle['rests']
  return withHeadings({ ...style, name: all.name, sentenceRestMs: all.sentenceRestMs, rests, headingRests: all.headingRests, rules: all.ruleOrder.flatMap(id => all[`rule ${id}`] ?? []) })
}

/** Without a list of levels that has none. */
function withHeadings({ headingRests = {}, ...style }: HouseStyle): HouseStyle {
  return Object.keys(headingRests).length === 0 ? style : { ...style, headingRests }
}

/** A house style in which anything may be missing; what is missing stays as it is. */
interface StyleValues {
  readonly name?: string
  readonly rests?: Readonly<Partial<Record<PassageKind, Partial<Rests>>>>
  /** All that there are. */
  readonly headingRests?: Readonly<Record<string, Rests>>
  readonly sentenceRestMs?: number
}

/** A house style as a file holds it. Its rules are all that there are. */
export interface HouseStyleFile extends StyleValues {
  readonly version?: 1
  readonly rules?: readonly Rule[]
}

/** A change of a house style: rules by their ids, null for one that goes, and the order of all. */
export interface HouseStylePatch extends StyleValues {
  readonly rules?: Readonly<Record<string, Rule | null>>
  readonly order?: readonly string[]
}

const restSchema = { type: 'integer', minimum: 0, maximum: maximumRestMs } as const

const values = {
  name: { type: 'string', minLength: 1, maxLength: 200, pattern: wholeText },
  rests: {
    type: 'object',
    additionalProperties: false,
    properties: Object.fromEntries(passageKinds.map(kind => [kind, {
      type: 'object',
      additionalProperties: false,
      properties: { beforeMs: restSchema, afterMs: restSchema },
    }])),
  },
  headingRests: {
    type: 'object', additionalProperties: false,
    patternProperties: { '^[1-9]$': { type: 'object', required: ['beforeMs', 'afterMs'], additionalProperties: false, properties: { beforeMs: restSchema, afterMs: restSchema } } },
  },
  sentenceRestMs: restSchema,
} as const

const ruleId = { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText } as const

/** JSON Schema of `HouseStyleFile`. */
export const houseStyleFileSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'House style',
  type: 'object',
  additionalProperties: false,
  properties: { version: { const: 1 }, ...values, rules: { type: 'array', maxItems: maximumRules, items: ruleSchema } },
} as const

/** JSON Schema of `HouseStylePatch`. */
export const houseStylePatchSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    ...values,
    rules: { type: 'object', maxProperties: maximumRules, additionalProperties: { oneOf: [ruleSchema, { type: 'null' }] } },
    order: { type: 'array', maxItems: maximumRules, items: ruleId },
  },
} as const

/** A house style with the values of a patch in place of its own. A rule that no order names comes last. */
export function patchHouseStyle(style: HouseStyle, { rules: changed = {}, order, ...given }: HouseStylePatch): HouseStyle {
  const rules = new Map<string, Rule>(style.rules.map(rule => [rule.id, rule]))
  for (const [id, rule] of Object.entries(changed)) {
    if (rule === null) rules.delete(id)
    else rules.set(id, { ...rule, id })
  }
  const inOrder = [...new Set([...order ?? [], ...rules.keys()])].flatMap(id => rules.get(id) ?? [])
  return { ...withValues(style, given), rules: inOrder }
}

/** The house style of a file; what it leaves out is as in `style`. Of rules with one id the last counts. */
export function houseStyleOfFile(style: HouseStyle, { rules, version: _, ...given }: HouseStyleFile): HouseStyle {
  return { ...withValues(style, given), rules: rules === undefined ? style.rules : [...new Map(rules.map(rule => [rule.id, rule])).values()] }
}

/** The change that makes one house style of another. */
export function patchBetween(from: HouseStyle, { name, rests, headingRests = {}, sentenceRestMs, rules }: HouseStyle): HouseStylePatch {
  const gone = from.rules.filter(rule => !rules.some(other => other.id === rule.id))
  return { name, rests, headingRests, sentenceRestMs, rules: { ...Object.fromEntries(gone.map(rule => [rule.id, null])), ...Object.fromEntries(rules.map(rule => [rule.id, rule])) }, order: rules.map(rule => rule.id) }
}

function withValues(style: HouseStyle, given: StyleValues): HouseStyle {
  const rests = Object.fromEntries(passageKinds.map(kind => [kind, { ...style.rests[kind], ...given.rests?.[kind] }]))
  return withHeadings({ ...style, ...given, version: 1, rests: rests as unknown as HouseStyle['rests'] })
}
