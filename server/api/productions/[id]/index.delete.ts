import { removeProduction } from '#store/editions'
import { idParam, route } from '../../../utils/route'

/** Removes a production with all of its editions. */
export default route(async (event, { database }) => {
  await removeProduction(database, idParam(event))
  return { ok: true }
})
