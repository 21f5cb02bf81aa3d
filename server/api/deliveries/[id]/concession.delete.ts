import { concede } from '#store/delivery-report'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await concede(database, idParam(event), null)
  return { ok: true }
})
