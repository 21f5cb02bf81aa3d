import { removeEdition } from '#store/removed'
import { idParam, route } from '../../../utils/route'

/** Takes one of several editions off the shelf. */
export default route(async (event, { database }) => {
  await removeEdition(database, idParam(event))
  return { ok: true }
})
