import { Op } from 'sequelize'
import { compareDeliveries, type DeliveredBefore } from '#core/delivery/compare'
import { reportFileOf, reportOf } from '#core/delivery/report'
import { isFailing } from '#core/delivery/verdict'
import { fail } from '#core/problem'
import type { DeliveryChangesView, DeliveryReportView } from '#shared/delivery'
import type { FileStorage } from '#takes/storage'
import type { Database } from './database'
import { dropDelivery, finishedDelivery } from './deliveries'
import { postEvent } from './events'
import { DeliveryRow, type DeliveryFileRow } from './models'

/** What was measured of the files of a finished delivery, and what of their profile they do not keep. Throws a problem when there is no such delivery or it is not finished. */
export async function deliveryReport(database: Database, deliveryId: string): Promise<DeliveryReportView> {
  const { delivery, files } = await finishedDelivery(deliveryId)
  const { title, profile, number, createdAt, sheetCount, concession } = delivery
  const report = reportOf(title, profile, files.map(reportFileOf), { number, madeAt: createdAt.toISOString(), sheetCount }, concession)
  const passages = files.flatMap(file => (file.findings ?? []).flatMap(({ place }) => place?.passageId ?? []))
  const places = passages.length === 0 ? [] : await database.rows<{ id: string, partId: string }>('SELECT id, part_id AS "partId" FROM passages WHERE id = ANY($1)', [passages])
  return {
    report, partOf: Object.fromEntries(places.map(({ id, partId }) => [id, partId])),
    earlier: (await earlierThan(delivery)).map(row => ({ id: row.id, number: row.number, profile: row.profile.name, createdAt: row.createdAt.toISOString() })),
  }
}

/** Finished deliveries of the same edition, newest first: those that were made with the same profile, and then the others. */
async function earlierThan({ editionId, number, profile }: DeliveryRow): Promise<DeliveryRow[]> {
  const rows = await DeliveryRow.findAll({ where: { editionId, state: 'done', number: { [Op.lt]: number } }, order: [['number', 'DESC']] })
  const isAlike = (row: DeliveryRow): boolean => row.profile.name === profile.name
  return [...rows.filter(isAlike), ...rows.filter(row => !isAlike(row))]
}

/** What a finished delivery has otherwise than an earlier one: by its id, or the one before it. */
export async function deliveryChanges(deliveryId: string, earlierId?: string): Promise<DeliveryChangesView> {
  const { delivery, files } = await finishedDelivery(deliveryId, { withSentences: true })
  const earlier = earlierId ?? (await earlierThan(delivery))[0]?.id ?? fail('not-found', 'There is no delivery before this one.')
  const before = await finishedDelivery(earlier, { withSentences: true })
  if (before.delivery.editionId !== delivery.editionId) fail('not-found', 'These are deliveries of different productions.')
  return { since: before.delivery.number, ...compareDeliveries(before.files.map(notedFile), files.map(notedFile)) }
}

function notedFile({ name, title, key, sha256, durationMs, levels, sentences }: DeliveryFileRow): DeliveredBefore {
  return { name, title, key, sha256, durationMs, gainDb: levels?.gainDb ?? null, sentences }
}

/** How large the texts of a delivery are, bytes. */
export async function deliveryBytes(database: Database, deliveryId: string): Promise<number> {
  const [row] = await database.rows<{ bytes: string | null }>('SELECT sum(octet_length(sentences::text)) AS bytes FROM delivery_files WHERE delivery_id = $1', [deliveryId])
  return Number(row?.bytes ?? 0)
}

/** Notes why a delivery is handed over although files of it fail, or takes that back (null). Throws a problem when none of them does. */
export async function concede(database: Database, deliveryId: string, reason: string | null): Promise<void> {
  const { delivery, files } = await finishedDelivery(deliveryId)
  if (reason !== null && !files.some(isFailing)) fail('nothing-fails', 'All files of this delivery pass: it needs no reason to be handed over.')
  await delivery.update({ concession: reason === null ? null : { reason, at: new Date().toISOString() } })
  await postEvent(database, delivery.editionId, { kind: 'delivery', deliveryId })
}

/** Throws a problem where files of a delivery fail and nobody has decided to hand it over all the same. */
export function refuseFailing(delivery: DeliveryRow, files: readonly DeliveryFileRow[]): void {
  const failing = files.filter(isFailing).length
  if (failing > 0 && delivery.concession === null) fail('delivery-fails', `${failing} of ${files.length} files do not pass “${delivery.profile.name}”. Look at the report of this delivery: mend them, or give a reason to deliver them anyway.`)
}

/** Removes a delivery with its files. Throws a problem while it is being made. */
export async function removeDelivery(database: Database, storage: FileStorage, deliveryId: string): Promise<void> {
  const editionId = await dropDelivery(database, storage, deliveryId) ?? fail('not-found', 'There is no such delivery, or it is being made: stop it first.')
  await postEvent(database, editionId, { kind: 'delivery' })
}
