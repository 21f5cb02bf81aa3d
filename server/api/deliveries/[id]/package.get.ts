import { setResponseHeaders } from 'h3'
import { fileSafe } from '#core/runsheet/file-name'
import { extrasIn, zipPackage } from '#press/package'
import { finishedDelivery } from '#store/deliveries'
import { refuseFailing } from '#store/delivery-report'
import { deliveryFolder } from '#store/folders'
import { refuseDamaged } from '../../../utils/delivered-files'
import { idParam, route } from '../../../utils/route'
import { sendBytes } from '../../../utils/send-bytes'

/** All files of a delivery, and the lists beside them, in one ZIP, streamed. */
export default route(async (event, { storage }) => {
  const { delivery, files } = await finishedDelivery(idParam(event))
  refuseFailing(delivery, files)
  const place = { storage, folder: deliveryFolder(delivery.id) }
  for (const file of files) await refuseDamaged(place, file)
  const { bytes, stream } = await zipPackage(place, [...files.map(file => file.name), ...await extrasIn(place)])
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-length': bytes,
    'content-disposition': `attachment; filename="${fileSafe(delivery.title)}-${delivery.number}.zip"`,
  })
  return sendBytes(event, stream)
})
