import { deliverySchema, type DeliveryRequest } from '#shared/schemas'
import { sendDelivery } from '#store/queue'
import { editionBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<DeliveryRequest>(deliverySchema)

/** Orders files: all of them, chosen ones, or all that are ready; for other profiles as well where that is asked for. */
export default route(async (event, { database, queue, work }) => {
  const editionId = idParam(event)
  const { files, ready, also = [] } = await body(event)
  const ordered = await work.result('orderDelivery', { editionId, choice: files ?? (ready === true ? 'ready' : 'all'), also }, await editionBytes(database, editionId))
  for (const deliveryId of ordered.deliveryIds) await sendDelivery(queue, { deliveryId })
  return ordered
})
