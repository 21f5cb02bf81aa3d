import { changesQuerySchema, type ChangesQuery } from '#shared/schemas'
import { deliveryBytes } from '#store/delivery-report'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<ChangesQuery>(changesQuerySchema)

/** What a delivery has otherwise than an earlier one. */
export default route(async (event, { database, work }) => {
  const id = idParam(event)
  return work.result('changesIn', { deliveryId: id, ...query(event) }, await deliveryBytes(database, id))
})
