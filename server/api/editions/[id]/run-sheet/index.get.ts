import { encoderName } from '#press/ffmpeg'
import { fileKey } from '#services/run-sheets'
import type { FileDamage } from '#shared/delivery'
import { notedFiles } from '#store/deliveries'
import { postEvent } from '#store/events'
import { deliveryFolder } from '#store/folders'
import { editionBytes } from '#store/sizes'
import { bringUpToDate } from '#store/summaries'
import { answerOf } from '../../../../utils/answer'
import { finder, knownDamageOf } from '../../../../utils/delivered-files'
import { idParam, route } from '../../../../utils/route'

/** The run sheet, and the deliveries made so far. */
export default route(async (event, { database, storage, work }) => {
  const editionId = idParam(event)
  await bringUpToDate(database, editionId, work.summarise)
  const find = finder()
  const damages: Record<string, FileDamage> = {}
  for (const file of await notedFiles(editionId)) {
    const { deliveryId } = file
    const damage = await knownDamageOf({ storage, folder: deliveryFolder(deliveryId) }, file, find, () => postEvent(database, editionId, { kind: 'delivery', deliveryId }))
    if (damage !== null) damages[fileKey(deliveryId, file.name)] = damage
  }
  return answerOf(event, work, 'runSheetOf', { editionId, encoder: await encoderName(), damages }, await editionBytes(database, editionId))
})
