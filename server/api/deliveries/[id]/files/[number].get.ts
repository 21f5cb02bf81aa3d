import { join } from 'node:path'
import { getRouterParam, setResponseHeaders } from 'h3'
import { fail } from '#core/problem'
import { openFinished } from '#press/package'
import { finishedDelivery } from '#store/deliveries'
import { refuseDamaged } from '../../../../utils/delivered-files'
import { idParam, route } from '../../../../utils/route'
import { sendBytes } from '../../../../utils/send-bytes'

export default route(async (event, { folders }) => {
  const { delivery, files } = await finishedDelivery(idParam(event))
  const file = files.find(candidate => String(candidate.number) === getRouterParam(event, 'number'))
  if (file === undefined) fail('not-found', 'This delivery has no such file.')
  await refuseDamaged(join(folders.deliveries, delivery.id), file)
  const opened = await openFinished(join(folders.deliveries, delivery.id), file.name)
  setResponseHeaders(event, {
    'content-type': 'audio/mpeg', 'content-length': file.bytes, 'content-disposition': `attachment; filename="${file.name}"`,
  })
  return sendBytes(event, opened.createReadStream())
})
