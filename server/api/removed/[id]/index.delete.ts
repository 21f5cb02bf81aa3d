import { dropEdition } from '#store/removed'
import { idParam, route } from '../../../utils/route'

/** Removes for good. */
export default route(async (event, { database }) => {
  await dropEdition(database, idParam(event))
  return { ok: true }
})
