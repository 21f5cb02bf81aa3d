import type { OwnProfile } from '#shared/delivery'
import { ownProfiles } from '#store/delivery-profiles'
import { route } from '../../utils/route'

/** The profiles that were made here. */
export default route((): Promise<OwnProfile[]> => ownProfiles())
