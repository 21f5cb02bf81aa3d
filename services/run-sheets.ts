import { writeSheetCsv } from '#core/runsheet/table'
import type { DeliveryDesk, FileDamage, FilePassage } from '#shared/delivery'
import { deliveryDesk } from '#store/deliveries'
import { loadEdition } from '#store/editions'
import { filePassages } from '#store/run-sheet'
import type { Place } from './place'

// What is made of the summaries of an edition, which must be up to date.

interface OfSheet {
  readonly editionId: string
  /** Name and version of what encodes the files. */
  readonly encoder: string
}

/** The name of a delivered file among those of all deliveries. */
export const fileKey = (deliveryId: string, name: string): string => `${deliveryId}/${name}`

/** The Delivery page; `damages`: what has happened to files on the disk, by their keys. */
export async function runSheetOf({ database }: Place, { editionId, encoder, damages }: OfSheet & { readonly damages: Readonly<Record<string, FileDamage>> }): Promise<DeliveryDesk> {
  return deliveryDesk(database, await loadEdition(editionId), encoder, (deliveryId, { name }) => damages[fileKey(deliveryId, name)] ?? null)
}

/** The run sheet as CSV. */
export async function runSheetTable({ database }: Place, { editionId, encoder }: OfSheet): Promise<Buffer> {
  const { rows } = await deliveryDesk(database, await loadEdition(editionId), encoder)
  return Buffer.from(writeSheetCsv(rows.map(row => ({ ...row, verdict: row.findings === null ? '' : row.findings.length === 0 ? 'passes' : row.findings.map(finding => finding.message).join(' ') }))))
}

/** The passages of one file. */
export async function passagesOfFile({ database }: Place, { editionId, file }: { readonly editionId: string, readonly file: string }): Promise<FilePassage[]> {
  return filePassages(database, await loadEdition(editionId), file)
}
