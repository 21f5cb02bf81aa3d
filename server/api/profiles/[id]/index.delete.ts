import { removeProfile } from '#store/delivery-profiles'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await removeProfile(database, idParam(event))
  return { ok: true }
})
