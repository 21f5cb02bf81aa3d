import { languageTag } from '../language/tag'
import { wholeText } from './whole-text'

// What a producer can tell the voice, as data: the values of each kind of direction, and how kinds may stand in each other.

export const emphasisLevels = ['strong', 'moderate', 'reduced', 'none'] as const
export type EmphasisLevel = (typeof emphasisLevels)[number]

/** Strengths of a rest, as SSML names those of a break. */
export const restStrengths = ['none', 'x-weak', 'weak', 'medium', 'strong', 'x-strong'] as const
export type RestStrength = (typeof restStrengths)[number]

/** Pitch, pace, range and volume of a stretch, each as SSML 1.1 writes it. */
export interface Prosody {
  readonly rate?: string
  readonly pitch?: string
  readonly range?: string
  readonly volume?: string
  readonly contour?: string
  readonly duration?: string
}

/** Attributes of an SSML element, by their names as they are written there. */
export type Attributes = Readonly<Record<string, string>>

/** What an element without text says where it stands: other words, or sounds in IPA. */
export type PointWords = { readonly alias: string } | { readonly ph: string }

/**
 * `leftOut`: written but not spoken. `voice`: a voice asked for by its properties, as SSML does; `role` is one of the
 * cast. `kept`: an element that the script does not know; it stays, and says nothing to the voice.
 */
export type DirectionValue =
  | { readonly kind: 'leftOut' }
  | { readonly kind: 'emphasis', readonly level: EmphasisLevel }
  | { readonly kind: 'sayAs', readonly interpretAs: string, readonly format?: string, readonly detail?: string }
  | { readonly kind: 'substitute', readonly alias: string }
  | { readonly kind: 'phoneme', readonly ph: string, readonly alphabet?: string, readonly type?: string }
  | { readonly kind: 'prosody' } & Prosody
  | { readonly kind: 'language', readonly language: string, readonly onlangfailure?: string }
  | { readonly kind: 'role', readonly role: string }
  | { readonly kind: 'voice', readonly attributes: Attributes }
  | { readonly kind: 'kept', readonly element: string, readonly attributes: Attributes }
  | { readonly kind: 'rest', readonly ms: number }
  | { readonly kind: 'rest', readonly strength: RestStrength }
  | { readonly kind: 'sound', readonly sound: string, readonly attributes?: Attributes, readonly inner?: string }
  | { readonly kind: 'keptPoint', readonly xml: string, readonly says?: PointWords }

export type DirectionKind = DirectionValue['kind']
export type DirectionOf<Kind extends DirectionKind> = Extract<DirectionValue, { kind: Kind }>

/** An instruction to the voice: on a span of text, or at a point in it. */
export type Direction = { readonly id: string } & DirectionValue

interface KindRules {
  /** It stands at a point, not on a span. */
  readonly point: boolean
  /** Nothing but text may stand in it (SSML 1.1, 3.1.9–3.1.11). */
  readonly textOnly: boolean
}

export const directionRules: Readonly<Record<DirectionKind, KindRules>> = {
  leftOut: { point: false, textOnly: false },
  emphasis: { point: false, textOnly: false },
  sayAs: { point: false, textOnly: true },
  substitute: { point: false, textOnly: true },
  phoneme: { point: false, textOnly: true },
  prosody: { point: false, textOnly: false },
  language: { point: false, textOnly: false },
  role: { point: false, textOnly: false },
  voice: { point: false, textOnly: false },
  kept: { point: false, textOnly: false },
  rest: { point: true, textOnly: false },
  sound: { point: true, textOnly: false },
  keptPoint: { point: true, textOnly: false },
}

/** Whether a kept element of SSML, with a prefix or without, is one around a word. */
export const isWordElement = (element: string): boolean => /^(?:[^:]+:)?(?:w|token)$/u.test(element)

/** Longest rest that a direction can ask for, in ms. */
export const maximumDirectedRestMs = 600_000

const text = (maxLength: number) => ({ type: 'string', maxLength, pattern: wholeText }) as const
const filled = (maxLength: number) => ({ ...text(maxLength), minLength: 1 }) as const
const attributes = { type: 'object', maxProperties: 40, additionalProperties: text(4000), propertyNames: { pattern: '^[\\p{L}_][\\p{L}\\p{N}_.:-]{0,99}$' } } as const
const value = <const P extends object>(kind: DirectionKind, required: readonly string[], properties: P) => ({
  type: 'object', required: ['id', 'kind', ...required], additionalProperties: false, properties: { id: filled(64), kind: { const: kind }, ...properties },
}) as const

const pointWords = <const N extends string>(name: N, maxLength: number) => ({ type: 'object', required: [name], additionalProperties: false, properties: { [name]: filled(maxLength) } }) as const

/** JSON Schema of a direction. */
export const directionSchema = {
  oneOf: [
    value('leftOut', [], {}),
    value('emphasis', ['level'], { level: { enum: emphasisLevels } }),
    value('sayAs', ['interpretAs'], { interpretAs: filled(100), format: text(100), detail: text(100) }),
    value('substitute', ['alias'], { alias: text(4000) }),
    value('phoneme', ['ph'], { ph: filled(1000), alphabet: filled(100), type: filled(40) }),
    { ...value('prosody', [], { rate: filled(40), pitch: filled(40), range: filled(40), volume: filled(40), contour: filled(1000), duration: filled(40) }), minProperties: 3 },
    // Empty where no language is meant (SSML 1.1, 3.1.13).
    value('language', ['language'], { language: { anyOf: [{ const: '' }, languageTag] }, onlangfailure: filled(40) }),
    value('role', ['role'], { role: filled(100) }),
    value('voice', ['attributes'], { attributes }),
    value('kept', ['element', 'attributes'], { element: filled(100), attributes }),
    value('rest', ['ms'], { ms: { type: 'integer', minimum: 0, maximum: maximumDirectedRestMs } }),
    value('rest', ['strength'], { strength: { enum: restStrengths } }),
    value('sound', ['sound'], { sound: text(2000), attributes, inner: text(100_000) }),
    value('keptPoint', ['xml'], { xml: filled(100_000), says: { oneOf: [pointWords('alias', 4000), pointWords('ph', 1000)] } }),
  ],
} as const
