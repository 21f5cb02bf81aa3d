import { removeProduction } from '#store/removed'
import { idParam, route } from '../../../utils/route'

/** Takes a production off the shelf, with all of its editions. */
export default route(async (event, { database }) => {
  await removeProduction(database, idParam(event))
  return { ok: true }
})
