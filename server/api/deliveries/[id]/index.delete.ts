import { removeDelivery } from '#store/delivery-report'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database, storage }) => {
  await removeDelivery(database, storage, idParam(event))
  return { ok: true }
})
