import { removeEdition } from '#store/editions'
import { idParam, route } from '../../../utils/route'

/** Removes one of several editions. */
export default route(async (event, { database }) => {
  await removeEdition(database, idParam(event))
  return { ok: true }
})
