import type { Transaction } from 'sequelize'
import { fail } from '#core/problem'
import type { RemovedEdition } from '#shared/api'
import type { Database } from './database'
import { endDelivery } from './deliveries'
import { lockEdition, noEdition, touch } from './editions'
import { DeliveryRow, EditionRow, HouseStyleRow, ProductionRow, ReadingRow } from './models'
import { stopReading } from './readings'

// What is taken off the shelf is kept for a while, with its script, takes and files, and can be put back.

/** For so long, days. */
const keptDays = 30

/** Takes a production off the shelf, with all of its editions. Throws a problem when there is none. */
export async function removeProduction(database: Database, productionId: string): Promise<void> {
  const editions = await EditionRow.findAll({ where: { productionId }, attributes: ['id'] })
  if (editions.length === 0) noEdition()
  await takeAway(database, editions.map(edition => edition.id))
}

/** Takes one of several editions off the shelf; its production and the others stay. Throws a problem for the last one. */
export async function removeEdition(database: Database, editionId: string): Promise<void> {
  const { productionId } = await EditionRow.findByPk(editionId) ?? noEdition()
  await takeAway(database, [editionId], async transaction => {
    await ProductionRow.findByPk(productionId, { transaction, lock: transaction.LOCK.UPDATE })
    if (await EditionRow.count({ where: { productionId }, transaction }) < 2) fail('last-edition', 'This is the only edition of its production. Remove the production instead.')
  })
}

async function takeAway(database: Database, editionIds: readonly string[], check: (transaction: Transaction) => Promise<void> = async () => undefined): Promise<void> {
  const ids = [...editionIds]
  await database.sequelize.transaction(async transaction => {
    await check(transaction)
    // Whoever brings the same document in again makes a production of it.
    await EditionRow.update({ request: null }, { where: { id: ids }, transaction })
    await EditionRow.destroy({ where: { id: ids }, transaction })
  })
  for (const reading of await ReadingRow.findAll({ where: { editionId: ids, state: 'running' } })) await stopReading(database, reading.id)
  for (const delivery of await DeliveryRow.findAll({ where: { editionId: ids, state: 'running' } })) await endDelivery(database, delivery, 'stopped')
}

/** Editions that can be put back, the one removed last first. */
export function removedEditions(database: Database): Promise<RemovedEdition[]> {
  const iso = (moment: string): string => `to_char((${moment}) AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`
  return database.rows<RemovedEdition>(
    `SELECT e.id, p.title, e.language, ${iso('e.removed_at')} AS "removedAt", ${iso('e.removed_at + make_interval(days => $1)')} AS "keptUntil" `
    + 'FROM editions e JOIN productions p ON p.id = e.production_id WHERE e.removed_at IS NOT NULL ORDER BY e.removed_at DESC, e.id LIMIT 200', [keptDays])
}

/** Puts a removed edition back on the shelf. Throws a problem when it is gone. */
export async function putBack(database: Database, editionId: string): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    await EditionRow.restore({ where: { id: editionId }, transaction })
    await touch(database, await lockEdition(editionId, transaction), transaction)
  })
}

/** Removes a removed edition for good. Throws a problem when it is gone, or on the shelf. Takes stay: other productions may use them. */
export async function dropEdition(database: Database, editionId: string): Promise<void> {
  if (await drop(database, 'id = $1', editionId) === 0) noEdition()
}

/** Removes for good what was removed long ago. */
export async function dropOld(database: Database): Promise<void> {
  await drop(database, 'removed_at < now() - make_interval(days => $1)', keptDays)
}

async function drop(database: Database, which: string, value: string | number): Promise<number> {
  return database.sequelize.transaction(async transaction => {
    const gone = await database.rows<{ productionId: string, houseStyleId: string }>(
      `DELETE FROM editions WHERE removed_at IS NOT NULL AND ${which} RETURNING production_id AS "productionId", house_style_id AS "houseStyleId"`, [value], transaction)
    for (const id of new Set(gone.map(edition => edition.productionId))) {
      if (await EditionRow.count({ where: { productionId: id }, paranoid: false, transaction }) === 0) await ProductionRow.destroy({ where: { id }, transaction })
    }
    // A house style goes with the last production that has it.
    for (const id of new Set(gone.map(edition => edition.houseStyleId))) {
      if (await EditionRow.count({ where: { houseStyleId: id }, paranoid: false, transaction }) === 0) await HouseStyleRow.destroy({ where: { id }, transaction })
    }
    return gone.length
  })
}
