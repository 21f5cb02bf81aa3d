import type { OwnProfile } from '#shared/delivery'
import { addProfile } from '#store/delivery-profiles'
import { profileBody } from '../../utils/profile-body'
import { route } from '../../utils/route'

export default route(async (event): Promise<OwnProfile> => addProfile(await profileBody(event)))
