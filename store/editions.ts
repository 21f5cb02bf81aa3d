import { generateNKeysBetween } from 'fractional-indexing'
import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { defaultProfile } from '#core/delivery/profile'
import type { ProposedPart } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle, type HouseStyle } from '#core/style/house-style'
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
  const edition = await EditionRow.findByPk(editionId) ?? noEdition()
  const [production, style, casting] = await Promise.all([
    ProductionRow.findByPk(edition.productionId, { rejectOnEmpty: true }),
    HouseStyleRow.findByPk(edition.houseStyleId, { rejectOnEmpty: true }),
    CastingRow.findOne({ where: { editionId }, rejectOnEmpty: true }),
  ])
  const { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb } = casting
  return { edition, production, style: style.rules, casting: { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb } }
}

/** The row of an edition, which nobody else changes until the transaction ends. Throws a problem when there is none. */
export async function lockEdition(editionId: string, transaction: Transaction): Promise<EditionRow> {
  const edition = await EditionRow.findByPk(editionId, { transaction, lock: transaction.LOCK.UPDATE })
  return edition ?? noEdition()
}

function noEdition(): never {
  return fail('not-found', 'There is no such production. It may have been removed.')
}

/** Notes a change of an edition and tells its watchers. */
export async function touch(database: Database, edition: EditionRow, transaction: Transaction): Promise<void> {
  await edition.increment('revision', { transaction })
  await ProductionRow.update({ changedAt: new Date() }, { where: { id: edition.productionId }, transaction })
  await postEvent(database, edition.id, { kind: 'script' }, transaction)
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
