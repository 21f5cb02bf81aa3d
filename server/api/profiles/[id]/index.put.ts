import { changeProfile } from '#store/delivery-profiles'
import { profileBody } from '../../../utils/profile-body'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await changeProfile(database, idParam(event), await profileBody(event))
  return { ok: true }
})
