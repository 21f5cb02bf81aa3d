import { deliverySchema, type DeliveryRequest } from '#shared/schemas'
import { sendDelivery } from '#store/queue'
import { editionBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<DeliveryRequest>(deliverySchema)

/** Orders files: all of them, chosen ones, or all that are ready. */
export default route(async (event, { database, queue, work }) => {
  const editionId = idParam(event)
  const { files, ready } = await body(event)
  const ordered = await work.result('orderDelivery', { editionId, choice: files ?? (ready === true ? 'ready' : 'all') }, await editionBytes(database, editionId))
  await sendDelivery(queue, ordered)
  return ordered
})
