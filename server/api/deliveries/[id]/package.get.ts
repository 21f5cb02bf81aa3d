import { join } from 'node:path'
import { setResponseHeaders } from 'h3'
import { fileSafe } from '#core/runsheet/file-name'
import { zipPackage } from '#press/package'
import { finishedDelivery } from '#store/deliveries'
import { refuseDamaged } from '../../../utils/delivered-files'
import { idParam, route } from '../../../utils/route'
import { sendBytes } from '../../../utils/send-bytes'

/** All files of a delivery and its manifest in one ZIP, streamed. */
export default route(async (event, { folders }) => {
  const { delivery, files } = await finishedDelivery(idParam(event))
  for (const file of files) await refuseDamaged(join(folders.deliveries, delivery.id), file)
  const { bytes, stream } = await zipPackage(join(folders.deliveries, delivery.id), [...files.map(file => file.name), 'manifest.json'])
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-length': bytes,
    'content-disposition': `attachment; filename="${fileSafe(delivery.title)}-${delivery.number}.zip"`,
  })
  return sendBytes(event, stream)
})
