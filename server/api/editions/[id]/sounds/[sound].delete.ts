import { removeSound } from '#store/sounds'
import { idParam, route } from '../../../../utils/route'

/** Takes a sound out of the library. */
export default route(async (event, { database }) => {
  await removeSound(database, idParam(event), idParam(event, 'sound'))
  return {}
})
