import type { FromSchema } from 'json-schema-to-ts'
import { anchorSchema } from '#core/script/anchor'
import type { Content } from '#core/script/content'
import { decisionSchema, type Decision } from '#core/script/decisions'
import { passageKinds } from '#core/script/script'
import { wholeText } from '#core/script/whole-text'
import { wordEntrySchema, type WordEntry } from '#core/words/wordbook'
import { houseStylePatchSchema, type HouseStylePatch } from '#core/style/house-style'
import { uuid, revision, language, shortText, content, roleName, orNull, findQuery, splitSchema, window } from './values'

// The steps of a save.

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
            required: ['op', 'passageId', 'revision'],
            additionalProperties: false,
            minProperties: 4,
            properties: { op: { const: 'setPassage' }, passageId: uuid, revision, kind: { enum: passageKinds }, language: orNull(language), role: orNull(uuid) },
          },
          {
            type: 'object',
            required: ['op', 'partId', 'seen', 'passages'],
            additionalProperties: false,
            properties: {
              op: { const: 'setPassages' },
              partId: uuid,
              /** Every passage of the part as it was seen. */
              seen: { type: 'array', maxItems: 20_000, items: { type: 'object', required: ['id', 'revision'], additionalProperties: false, properties: { id: uuid, revision } } },
              passages: {
                type: 'array', minItems: 1, maxItems: 20_000,
                items: {
                  type: 'object', required: ['id', 'kind', 'content', 'language', 'role'], additionalProperties: false,
                  properties: { id: uuid, kind: { enum: passageKinds }, content, language: orNull(language), role: orNull(uuid) },
                },
              },
            },
          },
          {
            type: 'object',
            required: ['op', 'roles'],
            additionalProperties: false,
            properties: {
              op: { const: 'dialogue' },
              /** Speaker labels with the role of each. */
              roles: { type: 'array', minItems: 1, maxItems: 200, items: { type: 'object', required: ['label', 'role'], additionalProperties: false, properties: { label: shortText, role: roleName } } },
            },
          },
          {
            type: 'object',
            required: ['op', 'query', 'replacement'],
            additionalProperties: false,
            properties: {
              op: { const: 'replace' },
              query: findQuery,
              replacement: { type: 'string', maxLength: 4000, pattern: wholeText },
              /** One hit; all of them without. */
              only: {
                type: 'object', required: ['passageId', 'revision', 'start'], additionalProperties: false,
                properties: { passageId: uuid, revision, start: { type: 'integer', minimum: 0 }, directionId: { type: 'string', minLength: 1, maxLength: 64, pattern: wholeText } },
              },
            },
          },
          {
            type: 'object',
            required: ['op', 'id', 'shared', 'entry'],
            additionalProperties: false,
            properties: { op: { const: 'setWord' }, id: uuid, shared: { type: 'boolean' }, entry: { oneOf: [wordEntrySchema as unknown as { readonly type: 'object' }, { type: 'null' }] } },
          },
          {
            type: 'object',
            required: ['op', 'id', 'decision'],
            additionalProperties: false,
            properties: { op: { const: 'decide' }, id: uuid, decision: { oneOf: [decisionSchema as unknown as { readonly type: 'object' }, { type: 'null' }] } },
          },
          {
            type: 'object',
            required: ['op', 'id', 'name'],
            additionalProperties: false,
            properties: { op: { const: 'makeRole' }, id: uuid, name: roleName },
          },
          {
            type: 'object',
            required: ['op', 'id', 'choice'],
            additionalProperties: false,
            properties: {
              op: { const: 'chooseTake' }, id: uuid,
              /** Id of the take, and the place at which it is heard; null takes the choice back. */
              choice: orNull({ type: 'object', required: ['at', 'take'], additionalProperties: false, properties: { at: anchorSchema, take: { type: 'string', pattern: '^[0-9a-f]{64}(?:\\.[1-9]\\d{0,5})?$' } } }),
            },
          },
          {
            type: 'object',
            required: ['op', 'patch'],
            additionalProperties: false,
            properties: { op: { const: 'setHouseStyle' }, patch: houseStylePatchSchema as unknown as { readonly type: 'object' } },
          },
          {
            type: 'object',
            required: ['op', 'houseStyleId'],
            additionalProperties: false,
            properties: { op: { const: 'chooseHouseStyle' }, houseStyleId: uuid },
          },
          {
            type: 'object',
            required: ['op'],
            additionalProperties: false,
            /** To be changed without the other productions that have it. */
            properties: { op: { const: 'copyHouseStyle' } },
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
          {
            type: 'object',
            required: ['op', 'split', 'parts'],
            additionalProperties: false,
            properties: {
              op: { const: 'divide' },
              split: splitSchema,
              /** Every part as it was seen. */
              parts: { type: 'array', minItems: 1, maxItems: 20_000, items: { type: 'object', required: ['id', 'revision'], additionalProperties: false, properties: { id: uuid, revision } } },
            },
          },
        ],
      },
    },
  },
} as const
type SentOperation = FromSchema<typeof operationsSchema>['operations'][number]
type Sent<Op extends SentOperation['op']> = Extract<SentOperation, { op: Op }>

/** A passage as a whole: of one that is there, or a new one under an id of its own. */
export type WholePassage = Omit<Sent<'setPassages'>['passages'][number], 'content'> & { readonly content: Content }

/** One step of a save. It names the revision it started from. */
export type Operation =
  | Exclude<SentOperation, Sent<'setContent' | 'setPassages' | 'setHouseStyle' | 'setWord' | 'decide'>>
  | (Omit<Sent<'setWord'>, 'entry'> & { readonly entry: Omit<WordEntry, 'id'> | null })
  | (Omit<Sent<'decide'>, 'decision'> & { readonly decision: Decision | null })
  | { readonly op: 'setHouseStyle', readonly patch: HouseStylePatch }
  | (Omit<Sent<'setContent'>, 'content'> & { readonly content: Content })
  | (Omit<Sent<'setPassages'>, 'passages'> & { readonly passages: readonly WholePassage[] })

export interface OperationsRequest {
  readonly window: string
  readonly operations: readonly Operation[]
}
