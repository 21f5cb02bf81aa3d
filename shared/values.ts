import { languageTag } from '#core/language/tag'
import { maximumPatternCharacters } from '#core/manuscript/choices'
import { directionSchema } from '#core/script/directions'
import { maximumPassageCharacters } from '#core/script/content'
import { findPlaces } from '#core/script/find'
import { wholeText } from '#core/script/whole-text'

// JSON Schemas of values that several requests hold.

export const uuid = { type: 'string', format: 'uuid' } as const
export const revision = { type: 'integer', minimum: 1 } as const
export const language = languageTag
export const shortText = { type: 'string', minLength: 1, maxLength: 300, pattern: '^[^\\u0000\\ud800-\\udfff]*[^\\s\\u0000\\ud800-\\udfff][^\\u0000\\ud800-\\udfff]*$' } as const

export const content = {
  type: 'object',
  required: ['version', 'runs', 'directions'],
  additionalProperties: false,
  properties: {
    version: { const: 2 },
    runs: {
      type: 'array',
      maxItems: 10_000,
      items: {
        type: 'object',
        required: ['text', 'on'],
        additionalProperties: false,
        properties: {
          text: { type: 'string', maxLength: maximumPassageCharacters, pattern: wholeText },
          point: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText },
          on: { type: 'array', maxItems: 50, items: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText } },
        },
      },
    },
    directions: {
      type: 'array',
      maxItems: 5_000,
      items: directionSchema,
    },
  },
} as const

export const roleName = { type: 'string', minLength: 1, maxLength: 100, pattern: '^[^\\u0000\\ud800-\\udfff]*[^\\s\\u0000\\ud800-\\udfff][^\\u0000\\ud800-\\udfff]*$' } as const
export const orNull = <const S extends object>(schema: S) => ({ oneOf: [schema, { type: 'null' }] }) as const

/** What is looked for in a script (`core/script/find.ts`). */
export const findQuery = {
  type: 'object',
  required: ['what', 'place', 'matchCase', 'wholeWord', 'isPattern'],
  additionalProperties: false,
  properties: {
    what: { type: 'string', minLength: 1, maxLength: 1000, pattern: wholeText }, place: { enum: findPlaces },
    matchCase: { type: 'boolean' }, wholeWord: { type: 'boolean' }, isPattern: { type: 'boolean' },
  },
} as const

/** Where parts begin (`core/manuscript/choices.ts`). */
export const splitSchema = {
  oneOf: [
    { type: 'object', required: ['by', 'level'], additionalProperties: false, properties: { by: { const: 'heading' }, level: { type: 'integer', minimum: 0, maximum: 9 } } },
    { type: 'object', required: ['by', 'pattern'], additionalProperties: false, properties: { by: { const: 'pattern' }, pattern: { type: 'string', minLength: 1, maxLength: maximumPatternCharacters, pattern: wholeText } } },
    { type: 'object', required: ['by', 'lines'], additionalProperties: false, properties: { by: { const: 'blank' }, lines: { type: 'integer', minimum: 1, maximum: 100 } } },
    { type: 'object', required: ['by'], additionalProperties: false, properties: { by: { const: 'rule' } } },
    { type: 'object', required: ['by'], additionalProperties: false, properties: { by: { const: 'unit' } } },
    { type: 'object', required: ['by', 'minutes'], additionalProperties: false, properties: { by: { const: 'even' }, minutes: { type: 'integer', minimum: 1, maximum: 600 } } },
  ],
} as const

/** Names the window that edits: it undoes its own edits. */
export const window = { type: 'string', pattern: '^[A-Za-z0-9-]{8,64}$' } as const
