import { deliverySchema, type DeliveryRequest } from '#shared/schemas'
import { startDelivery } from '#store/deliveries'
import { sendDelivery } from '#store/queue'
import { bringUpToDate } from '#store/summaries'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<DeliveryRequest>(deliverySchema)

/** Starts to make files: of all parts, of chosen ones, or of all that are ready. */
export default route(async (event, { database, queue, work }) => {
  const id = idParam(event)
  const { parts, ready } = await body(event)
  const deliveryId = await startDelivery(database, await bringUpToDate(database, id, work.summarise), parts ?? (ready === true ? 'ready' : 'all'))
  await sendDelivery(queue, { deliveryId })
  return { deliveryId }
})
