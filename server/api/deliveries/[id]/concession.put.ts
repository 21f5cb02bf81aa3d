import { concessionSchema, type ConcessionRequest } from '#shared/schemas'
import { concede } from '#store/delivery-report'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ConcessionRequest>(concessionSchema)

export default route(async (event, { database }) => {
  const { reason } = await body(event)
  await concede(database, idParam(event), reason.trim())
  return { ok: true }
})
