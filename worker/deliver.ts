import { asProblem, fail, ProblemError, type Problem } from '#core/problem'
import { noDetails, type WorkCover } from '#core/delivery/details'
import { deliver } from '#press/deliver'
import type { CoverPicture } from '#press/formats/format'
import { withMending } from '#reading/mend'
import { endDelivery, finishedFile, gainOf, gainOfEdition, noteFile, noteFindings, orderedFiles } from '#store/deliveries'
import { coverFile, deliveryFile, deliveryFolder } from '#store/folders'
import { DeliveryRow } from '#store/models'
import { outage } from '#store/outage'
import { usePieces } from '#store/pieces'
import type { DeliverJob } from '#store/queue'
import { removeDrafts } from '#store/tidy'
import type { FileStorage } from '#takes/storage'
import type { Workplace } from './workplace'

/** Ends a delivery that cannot be made. */
export async function failDelivery({ database }: Workplace, { deliveryId }: DeliverJob, problem: Problem): Promise<void> {
  const delivery = await DeliveryRow.findByPk(deliveryId)
  if (delivery !== null) await endDelivery(database, delivery, 'failed', problem)
}

/** Makes the files of a delivery. */
export async function deliverJob(workplace: Workplace, { deliveryId }: DeliverJob): Promise<void> {
  const delivery = await DeliveryRow.findByPk(deliveryId)
  if (delivery === null || delivery.state !== 'running') return
  try {
    await makeFiles(workplace, delivery)
  } catch (error) {
    const known = asProblem(error)
    if (!(known instanceof ProblemError)) throw error
    await endDelivery(workplace.database, delivery, 'failed', known.problem)
  }
}

async function makeFiles({ worker, database, library, engines, storage }: Workplace, delivery: DeliveryRow): Promise<void> {
  await delivery.update({ worker })
  const { title, author, language, details, cover } = delivery
  const folder = deliveryFolder(delivery.id)
  await removeDrafts(storage, folder)
  const sheet = await orderedFiles(delivery.id)
  const keys = new Map(sheet.map(file => [file.number, file.key]))
  const sample = delivery.levelSample ?? null
  const production = sample === null ? {} : { production: { sample, beforeDb: await gainOfEdition(database, delivery.editionId, delivery.profile) } }
  let stopped = false
  let takenOver = false
  const trouble = outage('The look whether a delivery still runs')
  const watch = setInterval(() => {
    DeliveryRow.findByPk(delivery.id, { attributes: ['state', 'worker'] }).then(row => {
      takenOver = row?.state === 'running' && row.worker !== worker
      stopped = takenOver || row?.state !== 'running'
      trouble.over()
    }, trouble.failed)
  }, 500)
  try {
    const picture = cover === null ? null : await pictureOf(storage, cover)
    const wanted = sheet.flatMap(file => file.score.utterances)
    const made = await withMending(wanted, library, engines, () => deliver(sheet, { title, author, language, details: details ?? noDetails, cover }, delivery.profile, library, { storage, folder }, {
      earlier: async fingerprint => {
        const file = await finishedFile(fingerprint)
        return file === null ? null : { ...file, name: deliveryFile(file.deliveryId, file.name) }
      },
      pieces: storage, cover: picture,
      gainBefore: file => gainOf(database, file.key, delivery.profile),
      ...production,
      onPieces: keys => usePieces(database, keys),
      onFile: async ({ chapters: _, ...file }) => {
        await noteFile(database, delivery, { ...file, parts: [...file.parts], sentences: [...file.sentences], findings: [...file.findings], key: keys.get(file.number)! })
      },
      stopped: () => stopped,
      of: delivery.sheetCount, trackRate: delivery.trackRate,
    }))
    if (made.length === sheet.length) await noteFindings(delivery.id, made.filter(({ findings }) => findings.length > 0))
  } finally {
    clearInterval(watch)
  }
  if (!takenOver) await endDelivery(database, delivery, stopped ? 'stopped' : 'done')
}

async function pictureOf(storage: FileStorage, cover: WorkCover): Promise<CoverPicture> {
  const bytes = await storage.read(coverFile(cover.sha256), 0, cover.bytes)
  return bytes.length === cover.bytes ? { ...cover, bytes } : fail('cover-missing', 'The cover is no longer on the disk. Bring it in again on the Delivery page.')
}
