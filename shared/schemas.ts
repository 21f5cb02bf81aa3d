import type { FromSchema } from 'json-schema-to-ts'
import { engines } from '#core/score/cast'
import { directionKinds, type Content } from '#core/script/content'
import { wholeText } from '#core/script/whole-text'

// JSON Schemas of everything the server is sent. The types of the requests come from them.

const uuid = { type: 'string', format: 'uuid' } as const
const revision = { type: 'integer', minimum: 1 } as const
const language = { type: 'string', minLength: 2, maxLength: 35, pattern: '^[A-Za-z0-9-]+$' } as const
const shortText = { type: 'string', minLength: 1, maxLength: 300, pattern: '^[^\\u0000\\ud800-\\udfff]*[^\\s\\u0000\\ud800-\\udfff][^\\u0000\\ud800-\\udfff]*$' } as const

/** Longest written text of one passage, in characters. */
export const maximumPassageCharacters = 200_000

const content = {
  type: 'object',
  required: ['version', 'runs', 'directions'],
  additionalProperties: false,
  properties: {
    version: { const: 1 },
    runs: {
      type: 'array',
      maxItems: 10_000,
      items: {
        type: 'object',
        required: ['text', 'on'],
        additionalProperties: false,
        properties: {
          text: { type: 'string', minLength: 1, maxLength: maximumPassageCharacters, pattern: wholeText },
          on: { type: 'array', maxItems: 50, items: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText } },
        },
      },
    },
    directions: {
      type: 'array',
      maxItems: 5_000,
      items: {
        type: 'object',
        required: ['id', 'kind'],
        additionalProperties: false,
        properties: { id: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText }, kind: { enum: directionKinds } },
      },
    },
  },
} as const

/** Names the window that edits: it undoes its own edits. */
const window = { type: 'string', pattern: '^[A-Za-z0-9-]{8,64}$' } as const

export const operationsSchema = {
  type: 'object',
  required: ['window', 'operations'],
  additionalProperties: false,
  properties: {
    window,
    operations: {
      type: 'array',
      minItems: 1,
      maxItems: 500,
      items: {
        oneOf: [
          {
            type: 'object',
            required: ['op', 'passageId', 'revision', 'content'],
            additionalProperties: false,
            properties: { op: { const: 'setContent' }, passageId: uuid, revision, content },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'revision', 'label'],
            additionalProperties: false,
            properties: { op: { const: 'renamePart' }, partId: uuid, revision, label: shortText },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'revision', 'included'],
            additionalProperties: false,
            properties: { op: { const: 'includePart' }, partId: uuid, revision, included: { type: 'boolean' } },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'revision', 'afterPartId'],
            additionalProperties: false,
            properties: { op: { const: 'movePart' }, partId: uuid, revision, afterPartId: { oneOf: [uuid, { type: 'null' }] } },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'revision', 'nextPartId'],
            additionalProperties: false,
            properties: { op: { const: 'mergePart' }, partId: uuid, revision, nextPartId: uuid },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'revision', 'passageId', 'label'],
            additionalProperties: false,
            properties: { op: { const: 'splitPart' }, partId: uuid, revision, passageId: uuid, label: shortText },
          },
        ],
      },
    },
  },
} as const
type SentOperation = FromSchema<typeof operationsSchema>['operations'][number]
type SentContent = Extract<SentOperation, { op: 'setContent' }>

/** One step of a save. It names the revision it started from. */
export type Operation = Exclude<SentOperation, SentContent> | (Omit<SentContent, 'content'> & { readonly content: Content })

export interface OperationsRequest {
  readonly window: string
  readonly operations: readonly Operation[]
}

export const undoSchema = {
  type: 'object',
  required: ['window', 'direction'],
  additionalProperties: false,
  properties: {
    window,
    direction: { enum: ['undo', 'redo'] },
    /** An edit that was refused: it is given up, and nothing else is done. */
    giveUp: uuid,
  },
} as const
export type UndoRequest = FromSchema<typeof undoSchema>

export const historyQuerySchema = { type: 'object', required: ['window'], additionalProperties: false, properties: { window } } as const
export type HistoryQuery = FromSchema<typeof historyQuerySchema>

export const retrySchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    /** Of the utterances to be read again; all that are at fault without it. */
    keys: { type: 'array', minItems: 1, maxItems: 500, items: { type: 'string', pattern: '^[0-9a-f]{64}$' } },
  },
} as const
export type RetryRequest = FromSchema<typeof retrySchema>

const heading = { type: 'integer', minimum: 0, maximum: 9 } as const

export const productionSchema = {
  type: 'object',
  required: ['manuscriptId', 'title', 'language', 'level'],
  additionalProperties: false,
  properties: {
    manuscriptId: uuid,
    title: shortText,
    author: { type: 'string', maxLength: 300, pattern: wholeText },
    language,
    level: heading,
  },
} as const
export type ProductionRequest = FromSchema<typeof productionSchema>

const { wordsPerMinute, pitchSemitones, gainDb } = engines.espeak
const within = <const R extends { min: number, max: number }>(range: R) => ({ type: 'number', minimum: range.min, maximum: range.max }) as const
const voiceSettings = {
  voice: { type: 'string', minLength: 1, maxLength: 80, pattern: '^[A-Za-z0-9+_ -]+$' },
  wordsPerMinute: within(wordsPerMinute),
  pitchSemitones: within(pitchSemitones),
  gainDb: within(gainDb),
} as const

export const castingSchema = {
  type: 'object',
  required: ['voice', 'wordsPerMinute', 'pitchSemitones', 'gainDb'],
  additionalProperties: false,
  properties: voiceSettings,
} as const
export type CastingRequest = FromSchema<typeof castingSchema>

export const sampleSchema = {
  type: 'object',
  required: ['voice', 'wordsPerMinute', 'pitchSemitones', 'gainDb', 'language', 'text'],
  additionalProperties: false,
  properties: { ...voiceSettings, language, text: { type: 'string', minLength: 1, maxLength: 500, pattern: wholeText } },
} as const
export type SampleRequest = FromSchema<typeof sampleSchema>

export const editionSchema = {
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  properties: {
    title: shortText,
    author: { type: 'string', maxLength: 300, pattern: wholeText },
    language,
    namePattern: { type: 'string', minLength: 8, maxLength: 120, pattern: wholeText },
  },
} as const
export type EditionRequest = FromSchema<typeof editionSchema>

export const uploadQuerySchema = {
  type: 'object',
  required: ['name'],
  additionalProperties: false,
  properties: { name: { type: 'string', minLength: 1, maxLength: 255, pattern: wholeText }, encoding: { type: 'string', maxLength: 40, pattern: wholeText } },
} as const
export type UploadQuery = FromSchema<typeof uploadQuerySchema>

export const proposalQuerySchema = {
  type: 'object',
  additionalProperties: false,
  properties: { level: { type: 'string', pattern: '^[0-9]$' } },
} as const
export type ProposalQuery = FromSchema<typeof proposalQuerySchema>

export const freeSchema = {
  type: 'object',
  required: ['kind'],
  additionalProperties: false,
  properties: { kind: { enum: ['takes', 'deliveries', 'documents'] } },
} as const
export type FreeRequest = FromSchema<typeof freeSchema>
