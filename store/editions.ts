import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { defaultProfile } from '#core/delivery/profile'
import type { ProposedPart } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { canonicalContent, plainContent, type Content } from '#core/script/content'
import { defaultHouseStyle, type HouseStyle } from '#core/style/house-style'
import type { Operation } from '#shared/schemas'
import type { Database } from './database'
import { postEvent } from './events'
import { CastingRow, EditionRow, HouseStyleRow, PartRow, PassageRow, ProductionRow, RoleRow } from './models'

export interface NewProduction {
  readonly manuscriptId: string | null
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly parts: readonly ProposedPart[]
  readonly casting: Casting
}

/** Makes a production with one edition, one narrator and a house style of its own. Gives the edition's id. */
export async function createProduction(database: Database, work: NewProduction): Promise<string> {
  return database.sequelize.transaction(async transaction => {
    const production = await ProductionRow.create({ id: uuidv7(), title: work.title, author: work.author }, { transaction })
    const style = await HouseStyleRow.create({ id: uuidv7(), name: defaultHouseStyle.name, rules: defaultHouseStyle }, { transaction })
    const edition = await EditionRow.create({
      id: uuidv7(), productionId: production.id, manuscriptId: work.manuscriptId, houseStyleId: style.id, language: work.language,
      namePattern: defaultProfile.namePattern,
    }, { transaction })
    const role = await RoleRow.create({ id: uuidv7(), productionId: production.id, name: 'Narrator' }, { transaction })
    await CastingRow.create({ roleId: role.id, editionId: edition.id, ...work.casting }, { transaction })
    await insertParts(edition.id, work.parts, transaction)
    return edition.id
  })
}

async function insertParts(editionId: string, parts: readonly ProposedPart[], transaction: Transaction): Promise<void> {
  const ranks = generateNKeysBetween(null, null, parts.length)
  const rows = parts.map((part, index) => ({ id: uuidv7(), editionId, rank: ranks[index]!, kind: part.kind, label: part.label }))
  await PartRow.bulkCreate(rows, { transaction })
  const passages = parts.flatMap((part, index) => {
    const passageRanks = generateNKeysBetween(null, null, part.passages.length)
    return part.passages.map((passage, ordinal) => ({
      id: uuidv7(), partId: rows[index]!.id, rank: passageRanks[ordinal]!, kind: passage.kind,
      content: plainContent(passage.text), importedText: passage.text,
    }))
  })
  for (let from = 0; from < passages.length; from += 1000) await PassageRow.bulkCreate(passages.slice(from, from + 1000), { transaction })
}

export interface LoadedEdition {
  readonly edition: EditionRow
  readonly production: ProductionRow
  readonly style: HouseStyle
  readonly casting: Casting
}

/** Throws a problem when there is no such edition. */
export async function loadEdition(editionId: string): Promise<LoadedEdition> {
  const edition = await EditionRow.findByPk(editionId)
  if (edition === null) fail('not-found', 'There is no such production. It may have been removed.')
  const [production, style, casting] = await Promise.all([
    ProductionRow.findByPk(edition.productionId, { rejectOnEmpty: true }),
    HouseStyleRow.findByPk(edition.houseStyleId, { rejectOnEmpty: true }),
    CastingRow.findOne({ where: { editionId }, rejectOnEmpty: true }),
  ])
  const { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb } = casting
  return { edition, production, style: style.rules, casting: { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb } }
}

/** What stands in the way of a save: the thing as it is now. */
export interface Conflict {
  readonly id: string
  readonly revision: number
  readonly content?: Content
  readonly label?: string
}

export type ApplyResult = { readonly revisions: Record<string, number> } | { readonly conflicts: Conflict[] }

class ConflictsFound extends Error {
  constructor(readonly conflicts: Conflict[]) {
    super('conflict')
  }
}

/**
 * Carries out operations in one transaction: all, or none when one of them started from a revision that is
 * no longer the current one.
 */
export async function applyOperations(database: Database, editionId: string, operations: readonly Operation[]): Promise<ApplyResult> {
  try {
    const revisions: Record<string, number> = {}
    await database.sequelize.transaction(async transaction => {
      const edition = await EditionRow.findByPk(editionId, { transaction, lock: transaction.LOCK.UPDATE })
      if (edition === null) fail('not-found', 'There is no such production. It may have been removed.')
      const conflicts: Conflict[] = []
      for (const operation of operations) {
        const conflict = operation.op === 'setContent'
          ? await setContent(editionId, operation, revisions, transaction)
          : await changePart(editionId, operation, revisions, transaction)
        if (conflict !== null) conflicts.push(conflict)
      }
      if (conflicts.length > 0) throw new ConflictsFound(conflicts)
      await touch(database, edition, transaction)
    })
    return { revisions }
  } catch (error) {
    if (error instanceof ConflictsFound) return { conflicts: error.conflicts }
    throw error
  }
}

/** Notes a change of an edition and tells its watchers. */
async function touch(database: Database, edition: EditionRow, transaction: Transaction): Promise<void> {
  await edition.increment('revision', { transaction })
  await ProductionRow.update({ changedAt: new Date() }, { where: { id: edition.productionId }, transaction })
  await postEvent(database, edition.id, { kind: 'script' }, transaction)
}

type ContentOperation = Extract<Operation, { op: 'setContent' }>
type PartOperation = Exclude<Operation, ContentOperation>

async function setContent(
  editionId: string, operation: ContentOperation, revisions: Record<string, number>, transaction: Transaction,
): Promise<Conflict | null> {
  const passage = await PassageRow.findByPk(operation.passageId, { transaction })
  const part = passage === null ? null : await PartRow.findOne({ where: { id: passage.partId, editionId }, transaction })
  if (passage === null || part === null) return gone(operation.passageId)
  if (passage.revision !== (revisions[passage.id] ?? operation.revision)) {
    return { id: passage.id, revision: passage.revision, content: passage.content }
  }
  await passage.update({ content: canonicalContent(operation.content), revision: passage.revision + 1 }, { transaction })
  revisions[passage.id] = passage.revision
  return null
}

async function changePart(
  editionId: string, operation: PartOperation, revisions: Record<string, number>, transaction: Transaction,
): Promise<Conflict | null> {
  const part = await PartRow.findOne({ where: { id: operation.partId, editionId }, transaction })
  if (part === null) return gone(operation.partId)
  if (part.revision !== (revisions[part.id] ?? operation.revision)) return { id: part.id, revision: part.revision, label: part.label }
  const change = operation.op === 'renamePart'
    ? { label: operation.label.trim() }
    : operation.op === 'includePart' ? { included: operation.included } : { rank: await rankAfter(editionId, part.id, operation.afterPartId, transaction) }
  await part.update({ ...change, revision: part.revision + 1 }, { transaction })
  revisions[part.id] = part.revision
  return null
}

function gone(id: string): never {
  return fail('not-found', 'What was to be changed is no longer in the script. Load the page again.', id)
}

async function rankAfter(editionId: string, partId: string, afterPartId: string | null, transaction: Transaction): Promise<string> {
  const others = (await PartRow.findAll({ where: { editionId }, attributes: ['id', 'rank'], order: [['rank', 'ASC']], transaction })).filter(other => other.id !== partId)
  const index = afterPartId === null ? -1 : others.findIndex(other => other.id === afterPartId)
  if (afterPartId !== null && index < 0) return gone(afterPartId)
  return generateKeyBetween(others[index]?.rank ?? null, others[index + 1]?.rank ?? null)
}

/** Changes of an edition that are no edits of its script. */
export interface EditionChange {
  readonly title?: string
  readonly author?: string | null
  readonly language?: string
  readonly namePattern?: string
  readonly casting?: Casting
  readonly houseStyle?: HouseStyle
}

export async function changeEdition(database: Database, editionId: string, change: EditionChange): Promise<void> {
  const { edition } = await loadEdition(editionId)
  await database.sequelize.transaction(async transaction => {
    const { title, author, language, namePattern, casting, houseStyle } = change
    if (title !== undefined || author !== undefined) {
      await ProductionRow.update({ ...(title === undefined ? {} : { title }), ...(author === undefined ? {} : { author }) }, { where: { id: edition.productionId }, transaction })
    }
    if (language !== undefined) await edition.update({ language }, { transaction })
    if (namePattern !== undefined) await edition.update({ namePattern }, { transaction })
    if (casting !== undefined) await CastingRow.update(casting, { where: { editionId }, transaction })
    if (houseStyle !== undefined) await HouseStyleRow.update({ rules: houseStyle, name: houseStyle.name }, { where: { id: edition.houseStyleId }, transaction })
    await touch(database, edition, transaction)
  })
}

/** Removes a production with everything in it. Takes stay: other productions may use them. */
export async function removeProduction(database: Database, editionId: string): Promise<void> {
  const { edition } = await loadEdition(editionId)
  await database.sequelize.transaction(async transaction => {
    await ProductionRow.destroy({ where: { id: edition.productionId }, transaction })
    await HouseStyleRow.destroy({ where: { id: edition.houseStyleId }, transaction })
  })
}
