import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize'
import type { Choices } from '#core/manuscript/choices'
import type { Manuscript } from '#core/manuscript/manuscript'
import type { DeliveryProfile } from '#core/delivery/profile'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import type { ManifestSentence } from '#core/delivery/manifest'
import type { WorkCover, WorkDetails } from '#core/delivery/details'
import type { ChapterStart } from '#core/runsheet/run-sheet'
import type { NameRules } from '#core/delivery/naming'
import type { ProfileName } from '#core/delivery/profiles'
import type { Concession } from '#core/delivery/report'
import type { EngineId } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'
import type { FileSplit } from '#core/delivery/file-split'
import type { Announcements } from '#core/script/announcements'
import type { LevelSample } from '#core/runsheet/level-sample'
import type { PartFields, PassageFields, ScriptChange, WordFields } from '#core/script/changes'
import type { Anchor } from '#core/script/anchor'
import type { Content } from '#core/script/content'
import type { PartAbout, PartKind, PassageKind } from '#core/script/script'
import type { Decision } from '#core/script/decisions'
import type { HouseStyle } from '#core/style/house-style'
import type { KeptLexeme } from '#core/words/wordbook'
import type { Problem } from '#core/problem'
import type { EditKind } from '#shared/api'
import type { ReaderOptions } from '#shared/schemas'
import type { Voice, VoiceVariant } from '#voices/port'
import type { HeardFile } from './deliveries'

abstract class Row<T extends Model> extends Model<InferAttributes<T>, InferCreationAttributes<T>> {}

/** A file that came in, and what its reader made of it. */
export class ManuscriptRow extends Row<ManuscriptRow> {
  declare id: string
  declare fileName: string
  declare sha256: string
  /** Null until it is read. */
  declare content: CreationOptional<Manuscript | null>
  declare state: CreationOptional<'reading' | 'ready' | 'failed' | 'stopped'>
  /** How far its reading is, 0…1. */
  declare progress: CreationOptional<number>
  declare problem: CreationOptional<Problem | null>
  /** What its reader was told. */
  declare options: CreationOptional<ReaderOptions>
  declare createdAt: CreationOptional<Date>
}

export class ProductionRow extends Row<ProductionRow> {
  declare id: string
  declare title: string
  declare author: string | null
  declare createdAt: CreationOptional<Date>
  declare changedAt: CreationOptional<Date>
}

export class EditionRow extends Row<EditionRow> {
  declare id: string
  declare productionId: string
  declare manuscriptId: string | null
  declare houseStyleId: string
  declare language: string
  /** How its files are called; null for the way of the profile. */
  declare namePattern: CreationOptional<string | null>
  /** Those that differ from the profile's. */
  declare nameRules: CreationOptional<Partial<NameRules> | null>
  /** What its files are made as. */
  declare profile: CreationOptional<ProfileName>
  /** One that was made here, instead of that. */
  declare profileId: CreationOptional<string | null>
  /** How its script is divided into files; null for the way of the profile. */
  declare split: CreationOptional<FileSplit | null>
  /** What is said and heard around its text; null for what the profile says. */
  declare announcements: CreationOptional<Announcements | null>
  /** What its tags say; null for nothing yet. */
  declare details: CreationOptional<WorkDetails | null>
  declare cover: CreationOptional<WorkCover | null>
  /** What was chosen at its intake; null for one that was made before choices were kept. */
  declare choices: CreationOptional<Choices | null>
  /** Digest of the request that it was made from. */
  declare request: CreationOptional<string | null>
  declare revision: CreationOptional<number>
  /** Since when it is off the shelf. */
  declare removedAt: CreationOptional<Date | null>
}

export class PartRow extends Row<PartRow> {
  declare id: string
  declare editionId: string
  /** Fractional: a move changes one row. */
  declare rank: string
  declare kind: PartKind
  declare label: string
  declare included: CreationOptional<boolean>
  declare about: CreationOptional<PartAbout | null>
  declare revision: CreationOptional<number>
}

export class PassageRow extends Row<PassageRow> {
  declare id: string
  declare partId: string
  declare rank: string
  declare kind: PassageKind
  declare content: Content
  /** As it came in; the third side when a new version of the manuscript is merged. */
  declare importedText: string | null
  /** Of a heading, also where it became a title. */
  declare level: CreationOptional<number | null>
  /** BCP 47, where it differs from the edition's. */
  declare language: CreationOptional<string | null>
  /** The role that speaks it; null for the narrator. */
  declare role: CreationOptional<string | null>
  /** The manuscript's block that it came from. */
  declare block: CreationOptional<number | null>
  declare revision: CreationOptional<number>
}

/** What of a part an edit can change. */
export function partFields({ rank, kind, label, included, about }: PartRow): PartFields {
  return { rank, kind, label, included, about: about ?? null }
}

/** What of a passage an edit can change. */
export function allFields({ partId, rank, kind, content, importedText, level, language, role, block }: PassageRow): PassageFields {
  return { partId, rank, kind, content, importedText, level: level ?? null, language: language ?? null, role: role ?? null, block: block ?? null }
}

/** One edit of a script: a save or an operation on parts, with what it changed. */
export class EditRow extends Row<EditRow> {
  declare id: string
  /** Grows with time. */
  declare ordinal: CreationOptional<string>
  declare editionId: string
  /** A window undoes its own edits. */
  declare authorWindow: string
  declare what: EditKind
  declare changes: readonly ScriptChange[]
  declare undone: CreationOptional<boolean>
}

export class HouseStyleRow extends Row<HouseStyleRow> {
  declare id: string
  declare name: string
  declare rules: HouseStyle
}

export class RoleRow extends Row<RoleRow> {
  declare id: string
  declare productionId: string
  declare name: string
  /** One in each production. */
  declare isNarrator: CreationOptional<boolean>
  /** Grows with time. */
  declare ordinal: CreationOptional<string>
}

export class CastingRow extends Row<CastingRow> {
  declare roleId: string
  declare editionId: string
  declare engine: EngineId
  declare voice: string
  declare voiceRevision: string
  declare wordsPerMinute: number
  declare pitchSemitones: number
  declare gainDb: number
}

/** The voices that an engine has, as it has said last. */
export class EngineVoicesRow extends Row<EngineVoicesRow> {
  declare engine: EngineId
  declare voices: readonly Voice[]
  declare variants: readonly VoiceVariant[]
}

/** The wordbook of a production, or the one that all share. */
export class WordbookRow extends Row<WordbookRow> {
  declare id: string
  /** Null for the shared one. */
  declare productionId: string | null
  /** Of the file that was brought in: written again. */
  declare kept: CreationOptional<KeptLexeme | null>
}

export class WordRow extends Row<WordRow> {
  declare id: string
  /** Grows with time. */
  declare ordinal: CreationOptional<string>
  declare wordbookId: string
  declare entry: WordFields['entry']
}

/** What was decided about a hit or a finding. */
export class DecisionRow extends Row<DecisionRow> {
  declare id: string
  /** Grows with time. */
  declare ordinal: CreationOptional<string>
  declare editionId: string
  declare decision: Decision
}

/** Which take is heard at a place. */
export class ChoiceRow extends Row<ChoiceRow> {
  declare id: string
  /** Grows with time. */
  declare ordinal: CreationOptional<string>
  declare editionId: string
  declare at: Anchor
  /** Id of the take. */
  declare take: string
}

/** A sound of a production's library. Its name is what directions ask for. */
export class AssetRow extends Row<AssetRow> {
  declare id: string
  declare productionId: string
  declare kind: 'sound'
  declare name: string
  declare takeKey: string
  /** Hz */
  declare sampleRate: number
  declare sampleCount: number
  declare createdAt: CreationOptional<Date>
}

/** A run that makes missing takes. */
export class ReadingRow extends Row<ReadingRow> {
  declare id: string
  declare editionId: string
  declare state: CreationOptional<'running' | 'stopped' | 'done'>
  /** What stopped it, unless it was the user. */
  declare problem: CreationOptional<Problem | null>
  declare createdAt: CreationOptional<Date>
  declare endedAt: CreationOptional<Date | null>
}

/** One take that a reading is to make. Done is not noted here: it is when the take exists. */
export class ReadingUtteranceRow extends Row<ReadingUtteranceRow> {
  declare readingId: string
  declare key: string
  declare chunk: number
  declare partId: string
  declare text: string
  declare request: EngineRequest
  declare estimatedMs: number
  declare fault: CreationOptional<Problem | null>
}

/** A profile that was made here. */
export class DeliveryProfileRow extends Row<DeliveryProfileRow> {
  declare id: string
  declare profile: DeliveryProfile
}

export class DeliveryRow extends Row<DeliveryRow> {
  declare id: string
  declare editionId: string
  declare number: number
  declare state: CreationOptional<'running' | 'stopped' | 'done' | 'failed'>
  declare profile: DeliveryProfile
  declare title: string
  declare author: string | null
  declare language: string
  /** Null for one of an earlier version. */
  declare details: WorkDetails | null
  declare cover: WorkCover | null
  declare fileCount: number
  /** Files of the whole run sheet. */
  declare sheetCount: number
  /** Hz */
  declare trackRate: number
  /** By what the level of the production is found; null for one of an earlier version. */
  declare levelSample: CreationOptional<LevelSample | null>
  /** The worker that makes it, so that the same one goes on with it after a restart. */
  declare worker: CreationOptional<string | null>
  declare problem: CreationOptional<Problem | null>
  declare concession: CreationOptional<Concession | null>
  declare createdAt: CreationOptional<Date>
  declare endedAt: CreationOptional<Date | null>
}

/** A file that a running delivery is to make, as it was ordered. */
export class DeliveryOrderRow extends Row<DeliveryOrderRow> {
  declare deliveryId: string
  declare number: number
  declare key: string
  declare name: string
  declare title: string
  declare parts: readonly number[]
  declare sound: string
  declare chapters: readonly ChapterStart[]
  declare heard: HeardFile
}

export class DeliveryFileRow extends Row<DeliveryFileRow> {
  declare deliveryId: string
  declare number: number
  /** Where it begins (`core/runsheet`); null for one of a part that was gone already. */
  declare key: string | null
  declare name: string
  declare title: string
  declare durationMs: number
  declare sampleCount: number
  declare bytes: number
  declare sha256: string
  declare fingerprint: string
  declare parts: number[]
  declare sentences: ManifestSentence[]
  /** Null for a file that was made before levels were measured. */
  declare levels: FileLevels | null
  /** What of its profile it does not keep; null for one that was not judged. */
  declare findings: Finding[] | null
}

// Each column gets an object of its own: the library writes the column's name into it.
const id = () => ({ type: DataTypes.UUID, primaryKey: true })
const uuid = () => ({ type: DataTypes.UUID, allowNull: false })
const text = () => ({ type: DataTypes.TEXT, allowNull: false })
const optionalText = () => ({ type: DataTypes.TEXT, allowNull: true })
const integer = () => ({ type: DataTypes.INTEGER, allowNull: false })
const real = () => ({ type: DataTypes.DOUBLE, allowNull: false })
/** The driver gives it as text. */
const bigint = (column: string) => ({ type: DataTypes.BIGINT, allowNull: false, get(this: Model) { return Number(this.getDataValue(column)) } })
const json = () => ({ type: DataTypes.JSONB, allowNull: false })
const optionalJson = () => ({ type: DataTypes.JSONB, allowNull: true })
const revision = () => ({ ...integer(), defaultValue: 1 })
const state = () => ({ ...text(), defaultValue: 'running' })
const now = () => ({ type: DataTypes.DATE, allowNull: false, defaultValue: DataTypes.NOW })
const later = () => ({ type: DataTypes.DATE, allowNull: true })

/** Binds the models to a connection. The tables themselves are made by the numbered migrations. */
export function defineModels(sequelize: Sequelize): void {
  const common = { sequelize, timestamps: false, underscored: true } as const
  ManuscriptRow.init({
    id: id(), fileName: text(), sha256: text(), content: optionalJson(), state: { ...text(), defaultValue: 'ready' }, progress: { ...real(), defaultValue: 1 },
    problem: optionalJson(), options: { ...json(), defaultValue: {} }, createdAt: now(),
  }, { ...common, tableName: 'manuscripts' })
  ProductionRow.init({ id: id(), title: text(), author: optionalText(), createdAt: now(), changedAt: now() }, { ...common, tableName: 'productions' })
  EditionRow.init({
    id: id(), productionId: uuid(), manuscriptId: { type: DataTypes.UUID, allowNull: true }, houseStyleId: uuid(),
    language: text(), namePattern: optionalText(), nameRules: optionalJson(), profile: { ...text(), defaultValue: 'book' }, profileId: { type: DataTypes.UUID, allowNull: true }, split: optionalJson(), announcements: optionalJson(), details: optionalJson(), cover: optionalJson(), choices: optionalJson(), request: optionalText(), revision: revision(), removedAt: later(),
  }, { ...common, tableName: 'editions', timestamps: true, createdAt: false, updatedAt: false, deletedAt: 'removedAt', paranoid: true })
  PartRow.init({
    id: id(), editionId: uuid(), rank: text(), kind: text(), label: text(),
    included: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true }, about: optionalJson(), revision: revision(),
  }, { ...common, tableName: 'parts' })
  PassageRow.init({
    id: id(), partId: uuid(), rank: text(), kind: text(), content: json(), importedText: optionalText(),
    level: { type: DataTypes.INTEGER, allowNull: true }, language: optionalText(), role: { type: DataTypes.UUID, allowNull: true }, block: { type: DataTypes.INTEGER, allowNull: true }, revision: revision(),
  }, { ...common, tableName: 'passages' })
  EditRow.init({
    id: id(), ordinal: { type: DataTypes.BIGINT }, editionId: uuid(), authorWindow: text(), what: text(), changes: json(),
    undone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
  }, { ...common, tableName: 'edits' })
  HouseStyleRow.init({ id: id(), name: text(), rules: json() }, { ...common, tableName: 'house_styles' })
  RoleRow.init({ id: id(), productionId: uuid(), name: text(), isNarrator: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false }, ordinal: { type: DataTypes.BIGINT } }, { ...common, tableName: 'roles' })
  CastingRow.init({
    roleId: id(), editionId: id(), engine: text(), voice: text(), voiceRevision: text(),
    wordsPerMinute: real(), pitchSemitones: real(), gainDb: real(),
  }, { ...common, tableName: 'castings' })
  EngineVoicesRow.init({ engine: { type: DataTypes.TEXT, primaryKey: true }, voices: json(), variants: json() }, { ...common, tableName: 'engine_voices' })
  WordbookRow.init({ id: id(), productionId: { type: DataTypes.UUID, allowNull: true }, kept: optionalJson() }, { ...common, tableName: 'wordbooks' })
  WordRow.init({ id: id(), ordinal: { type: DataTypes.BIGINT }, wordbookId: uuid(), entry: json() }, { ...common, tableName: 'wordbook_entries' })
  DecisionRow.init({ id: id(), ordinal: { type: DataTypes.BIGINT }, editionId: uuid(), decision: json() }, { ...common, tableName: 'decisions' })
  ChoiceRow.init({ id: id(), ordinal: { type: DataTypes.BIGINT }, editionId: uuid(), at: json(), take: text() }, { ...common, tableName: 'choices' })
  AssetRow.init({
    id: id(), productionId: uuid(), kind: text(), name: text(), takeKey: text(), sampleRate: integer(),
    sampleCount: bigint('sampleCount'), createdAt: now(),
  }, { ...common, tableName: 'assets' })
  ReadingRow.init({ id: id(), editionId: uuid(), state: state(), problem: optionalJson(), createdAt: now(), endedAt: later() }, { ...common, tableName: 'readings' })
  ReadingUtteranceRow.init({
    readingId: id(), key: { type: DataTypes.TEXT, primaryKey: true }, chunk: integer(), partId: uuid(), text: text(), request: json(),
    estimatedMs: real(), fault: optionalJson(),
  }, { ...common, tableName: 'reading_utterances' })
  DeliveryProfileRow.init({ id: id(), profile: json() }, { ...common, tableName: 'delivery_profiles' })
  DeliveryRow.init({
    id: id(), editionId: uuid(), number: integer(), state: state(), profile: json(), title: text(), author: optionalText(),
    language: text(), details: optionalJson(), cover: optionalJson(), fileCount: integer(), sheetCount: integer(), trackRate: integer(), levelSample: optionalJson(), worker: { type: DataTypes.UUID, allowNull: true }, problem: optionalJson(), concession: optionalJson(), createdAt: now(), endedAt: later(),
  }, { ...common, tableName: 'deliveries' })
  DeliveryOrderRow.init({
    deliveryId: id(), number: { type: DataTypes.INTEGER, primaryKey: true }, key: text(), name: text(), title: text(), parts: json(), sound: text(), chapters: json(), heard: json(),
  }, { ...common, tableName: 'delivery_orders' })
  DeliveryFileRow.init({
    deliveryId: id(), number: { type: DataTypes.INTEGER, primaryKey: true }, key: optionalText(),
    name: text(), title: text(), durationMs: real(),
    sampleCount: bigint('sampleCount'), bytes: bigint('bytes'),
    sha256: text(), fingerprint: text(), parts: json(), sentences: json(), levels: optionalJson(), findings: optionalJson(),
  }, { ...common, tableName: 'delivery_files' })
}
