import contentDisposition from 'content-disposition'
import { getRouterParam, setResponseHeaders } from 'h3'
import { formatOf } from '#core/delivery/formats'
import { fail } from '#core/problem'
import { streamFinished } from '#press/package'
import { finishedDelivery } from '#store/deliveries'
import { deliveryFolder } from '#store/folders'
import { refuseDamaged } from '../../../../utils/delivered-files'
import { idParam, route } from '../../../../utils/route'
import { sendBytes } from '../../../../utils/send-bytes'

export default route(async (event, { storage }) => {
  const { delivery, files } = await finishedDelivery(idParam(event))
  const file = files.find(candidate => String(candidate.number) === getRouterParam(event, 'number'))
  if (file === undefined) fail('not-found', 'This delivery has no such file.')
  const place = { storage, folder: deliveryFolder(delivery.id) }
  await refuseDamaged(place, file)
  const bytes = await streamFinished(place, file.name)
  // Browsers agree on letters beyond ASCII only where the name is given a second time, in UTF-8.
  const disposition = contentDisposition(file.name, { fallback: file.name.replace(/[^ -~]/gu, '_') })
  setResponseHeaders(event, {
    'content-type': formatOf(delivery.profile.format).mediaType, 'content-length': file.bytes, 'content-disposition': disposition,
  })
  return sendBytes(event, bytes)
})
