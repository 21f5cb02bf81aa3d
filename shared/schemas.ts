import { languageTag } from '#core/language/tag'
import type { FromSchema } from 'json-schema-to-ts'
import { discPattern, yearPattern } from '#core/delivery/details'
import { announcementsSchema, fileSplitSchema, nameRulesSchema } from '#core/delivery/profile-file'
import { profileNames } from '#core/delivery/profiles'
import type { FileSplit } from '#core/delivery/file-split'
import type { FileMark } from '#core/runsheet/split'
import type { Announcements } from '#core/script/announcements'
import { type Choices } from '#core/manuscript/choices'
import { dropKinds, columnRoles } from '#core/manuscript/manuscript'
import { scriptFormats } from '#core/script/export'
import { passageKinds } from '#core/script/script'
import { wholeText } from '#core/script/whole-text'
import { presetNames, type PresetName } from '#core/style/presets'
import type { WholePassage } from './operations'
import { uuid, language, shortText, content, orNull, findQuery, splitSchema, window } from './values'

// JSON Schemas of everything the server is sent. The types of the requests come from them.

export const findSchema = { type: 'object', required: ['query'], additionalProperties: false, properties: { query: findQuery } } as const
export type FindRequest = FromSchema<typeof findSchema>

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

const block = { type: 'integer', minimum: -1_000_000, maximum: 10_000_000 } as const
const byBlock = <const V extends object>(value: V) => ({ type: 'object', maxProperties: 20_000, patternProperties: { '^-?[0-9]{1,8}$': value }, additionalProperties: false }) as const

const atLeastOne = { type: 'integer', minimum: 1, maximum: 1_000_000 } as const
const pageNumber = { type: 'string', minLength: 1, maxLength: 40, pattern: wholeText } as const

const choices = {
  type: 'object',
  additionalProperties: false,
  properties: {
    split: splitSchema,
    footnotes: { enum: ['leave-out', 'in-place', 'at-end'] },
    tables: { enum: ['read', 'with-headers', 'leave-out'] },
    images: { enum: ['read', 'leave-out'] },
    from: { enum: ['notes', 'slide', 'both'] },
    hints: { type: 'boolean' },
    opening: { type: 'string', maxLength: 300, pattern: wholeText },
    restoredKinds: { type: 'array', maxItems: 40, items: { enum: dropKinds } },
    restored: { type: 'array', maxItems: 50_000, items: { type: 'string', pattern: '^[0-9]{1,8}(\\.[0-9]{1,6})?$' } },
    begins: { type: 'array', maxItems: 20_000, items: block },
    joins: { type: 'array', maxItems: 20_000, items: block },
    labels: byBlock(shortText),
    included: byBlock({ type: 'boolean' }),
    excerpt: {
      type: 'object',
      additionalProperties: false,
      properties: {
        parts: atLeastOne,
        sentences: atLeastOne,
        pages: { type: 'array', minItems: 2, maxItems: 2, items: pageNumber },
        each: {
          oneOf: [
            { type: 'object', required: ['sentences'], additionalProperties: false, properties: { sentences: atLeastOne } },
            { type: 'object', required: ['words'], additionalProperties: false, properties: { words: atLeastOne } },
          ],
        },
      },
    },
  },
} as const

export const proposalSchema = {
  type: 'object',
  required: ['choices'],
  additionalProperties: false,
  properties: {
    /** Those that differ from the defaults. */
    choices,
    /** Index of the part whose passages are sent along. */
    shown: { type: 'integer', minimum: 0, maximum: 1_000_000 },
  },
} as const

export interface ProposalRequest {
  readonly choices: Partial<Choices>
  readonly shown?: number
}

/** What a reader is told about a file. */
const readerOptions = {
  encoding: { type: 'string', minLength: 1, maxLength: 40, pattern: wholeText },
  delimiter: { type: 'string', minLength: 1, maxLength: 20, pattern: wholeText },
  columns: {
    type: 'object', additionalProperties: false,
    properties: Object.fromEntries(columnRoles.map(role => [role, { type: 'string', maxLength: 300, pattern: wholeText }])) as unknown as Record<(typeof columnRoles)[number], { type: 'string', maxLength: 300 }>,
  },
} as const

export const readerOptionsSchema = { type: 'object', additionalProperties: false, properties: readerOptions } as const
export type ReaderOptions = FromSchema<typeof readerOptionsSchema>

export const productionSchema = {
  type: 'object',
  required: ['manuscriptId', 'title', 'language'],
  additionalProperties: false,
  properties: {
    manuscriptId: uuid,
    title: shortText,
    author: { type: 'string', maxLength: 300, pattern: wholeText },
    language,
    choices,
    houseStyle: { enum: presetNames },
  },
} as const

export interface ProductionRequest {
  readonly manuscriptId: string
  readonly title: string
  readonly author?: string
  readonly language: string
  readonly choices?: Partial<Choices>
  /** Where it is not given, that of the document's kind. */
  readonly houseStyle?: PresetName
}

const some = <const S extends object>(items: S) => ({ type: 'array', minItems: 1, maxItems: 20_000, items }) as const
const someParts = some(uuid)
/** Keys of files on a run sheet (`core/runsheet`). */
const fileKey = { type: 'string', minLength: 1, maxLength: 80, pattern: '^[0-9a-f-]+\\.(?:[0-9]+|opening|part|closing)$' } as const

export const readingSchema = { type: 'object', additionalProperties: false, properties: { parts: someParts } } as const
export interface ReadingRequest { readonly parts?: readonly string[] }

/** The name of a profile that comes with the program, or the id of one that was made here. */
const profileId = { anyOf: [{ enum: profileNames }, uuid] } as const
/** That one order makes files to, besides the edition's own. */
const mostOtherProfiles = 20

export const deliverySchema = { type: 'object', additionalProperties: false, properties: { files: some(fileKey), ready: { const: true }, also: { ...some(profileId), maxItems: mostOtherProfiles } } } as const
export interface DeliveryRequest {
  /** Their keys. */
  readonly files?: readonly string[]
  /** All files in which nothing is missing. */
  readonly ready?: true
  /** Other profiles that files are made to as well. */
  readonly also?: readonly string[]
}

/** Why a delivery is handed over although files of it fail. */
export const concessionSchema = { type: 'object', required: ['reason'], additionalProperties: false, properties: { reason: { type: 'string', minLength: 1, maxLength: 1000, pattern: '\\S' } } } as const
export interface ConcessionRequest { readonly reason: string }

/** The id of the delivery that one is compared with. */
export const changesQuerySchema = { type: 'object', additionalProperties: false, properties: { since: uuid } } as const
export interface ChangesQuery { readonly since?: string }

/** How the script is divided into files; null as the profile says. */
export const fileSplitRequestSchema = {
  type: 'object', required: ['split'], additionalProperties: false,
  properties: { split: orNull({ ...fileSplitSchema, required: ['where', 'aboutMs', 'longestMs', 'largestBytes'] } as const) },
} as const
export interface FileSplitRequest { readonly split: FileSplit | null }

/** What is said and heard around the text; null for what the profile says. */
export const announcementsRequestSchema = {
  type: 'object', required: ['announcements'], additionalProperties: false,
  properties: { announcements: orNull({ ...announcementsSchema, required: Object.keys(announcementsSchema.properties) } as const) },
} as const
export interface AnnouncementsRequest { readonly announcements: Announcements | null }

/** Marks by hand: a file begins at a passage, or goes on there; null takes the mark away. */
export const fileMarksSchema = {
  type: 'object', required: ['marks'], additionalProperties: false,
  properties: {
    marks: some({ type: 'object', required: ['passageId', 'mark'], additionalProperties: false, properties: { passageId: uuid, mark: { enum: ['begins', 'goesOn', null] } } } as const),
  },
} as const
export interface FileMarksRequest { readonly marks: readonly { readonly passageId: string, readonly mark: FileMark | null }[] }

export const filePassagesQuerySchema = { type: 'object', required: ['file'], additionalProperties: false, properties: { file: fileKey } } as const
export type FilePassagesQuery = FromSchema<typeof filePassagesQuerySchema>

export const intakeStyleSchema = {
  type: 'object', required: ['houseStyle', 'language', 'choices'], additionalProperties: false,
  properties: { houseStyle: { enum: presetNames }, language, choices },
} as const

export interface IntakeStyleRequest {
  readonly houseStyle: PresetName
  readonly language: string
  readonly choices: Partial<Choices>
}

/** What makes sense of any voice; what its engine can do is narrower, and asked of the engine. */
const voiceSettings = {
  voice: { type: 'string', minLength: 1, maxLength: 80, pattern: '^[A-Za-z0-9+_ -]+$' },
  engine: { type: 'string', minLength: 1, maxLength: 80 },
  wordsPerMinute: { type: 'number', minimum: 1, maximum: 2_000 },
  pitchSemitones: { type: 'number', minimum: -60, maximum: 60 },
  gainDb: { type: 'number', minimum: -120, maximum: 60 },
} as const

export const castingSchema = {
  type: 'object',
  required: ['voice', 'wordsPerMinute', 'pitchSemitones', 'gainDb'],
  additionalProperties: false,
  properties: { ...voiceSettings, roleId: uuid },
} as const
export type CastingRequest = FromSchema<typeof castingSchema>

export const sampleSchema = {
  type: 'object',
  required: ['voice', 'wordsPerMinute', 'pitchSemitones', 'gainDb', 'language', 'text'],
  additionalProperties: false,
  properties: { ...voiceSettings, language, text: { type: 'string', minLength: 1, maxLength: 500, pattern: wholeText } },
} as const
export type SampleRequest = FromSchema<typeof sampleSchema>

export const sayableSchema = {
  type: 'object', required: ['ph', 'language'], additionalProperties: false,
  properties: { ph: { type: 'string', minLength: 1, maxLength: 300, pattern: wholeText }, language },
} as const
export type SayableRequest = FromSchema<typeof sayableSchema>

export const pronunciationsSchema = {
  type: 'object', required: ['word', 'language'], additionalProperties: false,
  properties: {
    word: { type: 'string', minLength: 1, maxLength: 100, pattern: wholeText }, language,
    /** As this language says it, and nothing else. */
    as: language,
  },
} as const
export type PronunciationsRequest = FromSchema<typeof pronunciationsSchema>

export const scriptQuerySchema = { type: 'object', required: ['format'], additionalProperties: false, properties: { format: { enum: scriptFormats } } } as const
export type ScriptQuery = FromSchema<typeof scriptQuerySchema>

/** Passages to be heard as they are sent, with the cast of an edition; nothing is kept. */
export const hearSchema = {
  type: 'object',
  required: ['passages'],
  additionalProperties: false,
  properties: {
    passages: {
      type: 'array', minItems: 1, maxItems: 100,
      items: {
        type: 'object', required: ['kind', 'content', 'language', 'role'], additionalProperties: false,
        properties: { kind: { enum: passageKinds }, content, language: orNull(language), role: orNull(uuid) },
      },
    },
  },
} as const
export interface HearRequest {
  readonly passages: readonly Omit<WholePassage, 'id'>[]
}

const detailText = { type: 'string', maxLength: 300, pattern: wholeText } as const
const detailsSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    narrator: detailText, genre: detailText, copyright: detailText,
    comment: { type: 'string', maxLength: 4000, pattern: wholeText },
    year: { type: 'string', pattern: yearPattern },
    disc: { type: 'string', pattern: discPattern },
  },
} as const

export const editionSchema = {
  type: 'object',
  additionalProperties: false,
  minProperties: 1,
  properties: {
    title: shortText,
    author: { type: 'string', maxLength: 300, pattern: wholeText },
    language,
    namePattern: orNull({ type: 'string', minLength: 8, maxLength: 200, pattern: wholeText } as const),
    nameRules: orNull(nameRulesSchema),
    profile: profileId,
    details: detailsSchema,
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

export const fileQuerySchema = { type: 'object', required: ['name'], additionalProperties: false, properties: { name: shortText } } as const
export type FileQuery = FromSchema<typeof fileQuerySchema>

export const wordImportQuerySchema = {
  type: 'object', required: ['name', 'window', 'shared'], additionalProperties: false,
  properties: { name: shortText, window, shared: { enum: ['yes', 'no'] } },
} as const
export type WordImportQuery = FromSchema<typeof wordImportQuerySchema>

export const wordExportQuerySchema = {
  type: 'object', required: ['format', 'shared'], additionalProperties: false,
  properties: { format: { enum: ['pls', 'csv'] }, shared: { enum: ['yes', 'no'] } },
} as const
export type WordExportQuery = FromSchema<typeof wordExportQuerySchema>

export const styleImportQuerySchema = { type: 'object', required: ['name', 'window'], additionalProperties: false, properties: { name: shortText, window } } as const
export type StyleImportQuery = FromSchema<typeof styleImportQuerySchema>

const wordList = { type: 'array', maxItems: 60_000, items: { type: 'string', minLength: 2, maxLength: 40, pattern: '^[\\p{L}\\p{M}]+$' } } as const

/** Words of a script in a language, of which is asked what dictionaries and the voice know. */
export const knownWordsSchema = {
  type: 'object', required: ['language', 'words', 'names'], additionalProperties: false, properties: { language: languageTag, words: wordList, names: wordList },
} as const
export type KnownWordsRequest = FromSchema<typeof knownWordsSchema>

export const ipaSchema = {
  type: 'object', required: ['texts'], additionalProperties: false,
  properties: { texts: { type: 'array', minItems: 1, maxItems: 200, items: { type: 'string', maxLength: 300, pattern: wholeText } } },
} as const
export type IpaRequest = FromSchema<typeof ipaSchema>

export const readingQuerySchema = {
  type: 'object', additionalProperties: false,
  properties: { parts: { type: 'string', maxLength: 40_000, pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36})*$', description: 'Ids of parts' } },
} as const
export type ReadingQuery = FromSchema<typeof readingQuerySchema>

export const whyQuerySchema = {
  type: 'object', required: ['passage', 'start', 'end'], additionalProperties: false,
  properties: { passage: uuid, start: { type: 'string', pattern: '^\\d{1,7}$' }, end: { type: 'string', pattern: '^\\d{1,7}$' } },
} as const
export type WhyQuery = FromSchema<typeof whyQuerySchema>

/** How many of the newest deliveries of a production can be kept when others go. */
export const keptChoices = [1, 2, 3, 5, 10] as const

export const storageQuerySchema = { type: 'object', additionalProperties: false, properties: { kept: { enum: keptChoices.map(String) } } } as const
export interface StorageQuery { readonly kept?: string }

export const accountSchema = {
  type: 'object',
  required: ['address'],
  additionalProperties: false,
  properties: {
    address: { type: 'string', minLength: 1, maxLength: 500 },
    /** Without it the account keeps its own. */
    key: { type: 'string', minLength: 1, maxLength: 500 },
  },
} as const
export type AccountRequest = FromSchema<typeof accountSchema>

export const freeSchema = {
  type: 'object',
  required: ['kind'],
  additionalProperties: false,
  properties: { kind: { enum: ['takes', 'deliveries', 'pieces', 'documents'] }, kept: { enum: keptChoices } },
} as const
export type FreeRequest = FromSchema<typeof freeSchema>

/** Without a split, the one that the script was divided by at its intake. */
export const divisionSchema = { type: 'object', additionalProperties: false, properties: { split: splitSchema } } as const
export type DivisionRequest = FromSchema<typeof divisionSchema>

export const comparisonSchema = { type: 'object', required: ['manuscriptId'], additionalProperties: false, properties: { manuscriptId: uuid } } as const
export type ComparisonRequest = FromSchema<typeof comparisonSchema>

export const versionSchema = {
  type: 'object',
  required: ['manuscriptId', 'window', 'keep'],
  additionalProperties: false,
  properties: {
    manuscriptId: uuid,
    window,
    /** Passages whose text of the script stays. */
    keep: { type: 'array', maxItems: 20_000, items: uuid },
  },
} as const
export type VersionRequest = FromSchema<typeof versionSchema>
