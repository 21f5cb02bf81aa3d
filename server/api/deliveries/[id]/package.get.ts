import { setResponseHeaders } from 'h3'
import { fileSafe } from '#core/runsheet/file-name'
import { changesQuerySchema, type ChangesQuery } from '#shared/schemas'
import { extrasIn, zipPackage } from '#press/package'
import { finishedDelivery } from '#store/deliveries'
import { deliveryBytes, refuseFailing } from '#store/delivery-report'
import { deliveryFolder } from '#store/folders'
import { refuseDamaged } from '../../../utils/delivered-files'
import { idParam, queryOf, route } from '../../../utils/route'
import { sendBytes } from '../../../utils/send-bytes'

const query = queryOf<ChangesQuery>(changesQuerySchema)

/** All files of a delivery and the lists beside them, or only the files that an earlier one has not, in one ZIP, streamed. */
export default route(async (event, { database, storage, work }) => {
  const { since } = query(event)
  const { delivery, files } = await finishedDelivery(idParam(event))
  refuseFailing(delivery, files)
  const place = { storage, folder: deliveryFolder(delivery.id) }
  const changes = since === undefined ? null : await work.result('changesIn', { deliveryId: delivery.id, since }, await deliveryBytes(database, delivery.id))
  const wanted = files.filter(file => changes === null || changes.files.some(change => change.kind !== 'gone' && change.name === file.name))
  for (const file of wanted) await refuseDamaged(place, file)
  const { bytes, stream } = await zipPackage(place, [...wanted.map(file => file.name), ...changes === null ? await extrasIn(place) : []])
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-length': bytes,
    'content-disposition': `attachment; filename="${fileSafe(delivery.title)}-${delivery.number}${changes === null ? '' : `-since-${changes.since}`}.zip"`,
  })
  return sendBytes(event, stream)
})
