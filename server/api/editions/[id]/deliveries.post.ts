import { startDelivery } from '#store/deliveries'
import { sendDelivery } from '#store/queue'
import { scoreEdition } from '#store/score'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database, library, queue }) => {
  const deliveryId = await startDelivery(database, library.index, await scoreEdition(idParam(event)))
  await sendDelivery(queue, { deliveryId })
  return { deliveryId }
})
