import { passageKinds, type PassageKind } from '../script/script'
import { wholeText } from '../script/whole-text'

/** Silence around a passage, in integer milliseconds, 0…`maximumRestMs`. */
export interface Rests {
  readonly beforeMs: number
  readonly afterMs: number
}

/** The rules that pause a script. Plain data: stored, shown, edited and exchanged as JSON. */
export interface HouseStyle {
  readonly version: 1
  readonly name: string
  readonly rests: Readonly<Record<PassageKind, Rests>>
  /** Between two sentences of one passage. */
  readonly sentenceRestMs: number
}

export const maximumRestMs = 20_000

/**
 * Rests around headings are *common practice* (about 100 ms before, 250 ms after); the others are this
 * product's own starting values.
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
  },
  sentenceRestMs: 300,
}

/** The rest between two neighbouring passages of a part: the longest of after(A) and before(B). */
export function restBetween(style: HouseStyle, before: PassageKind, after: PassageKind): number {
  return Math.max(style.rests[before].afterMs, style.rests[after].beforeMs)
}

/** What of a house style an edit can change, each by itself. */
export type StyleFields = Readonly<Record<PassageKind, Rests>> & Pick<HouseStyle, 'name' | 'sentenceRestMs'>

export function styleFields({ rests, name, sentenceRestMs }: HouseStyle): StyleFields {
  return { ...rests, name, sentenceRestMs }
}

/** A house style with other values of some fields. */
export function withStyleFields(style: HouseStyle, fields: Partial<StyleFields>): HouseStyle {
  const { name, sentenceRestMs, ...rests } = { ...styleFields(style), ...fields }
  return { ...style, name, sentenceRestMs, rests }
}

/** A house style in which anything may be missing; what is missing has its default. */
export interface HouseStylePatch {
  readonly version?: 1
  readonly name?: string
  readonly rests?: Readonly<Partial<Record<PassageKind, Partial<Rests>>>>
  readonly sentenceRestMs?: number
}

const restSchema = { type: 'integer', minimum: 0, maximum: maximumRestMs } as const

/** JSON Schema of `HouseStylePatch`. */
export const houseStylePatchSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    version: { const: 1 },
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
    sentenceRestMs: restSchema,
  },
} as const

/** A house style with the values of a patch in place of its own. */
export function patchHouseStyle(style: HouseStyle, patch: HouseStylePatch): HouseStyle {
  const rests = Object.fromEntries(passageKinds.map(kind => [kind, { ...style.rests[kind], ...patch.rests?.[kind] }]))
  return { ...style, ...patch, version: 1, rests: rests as unknown as HouseStyle['rests'] }
}
