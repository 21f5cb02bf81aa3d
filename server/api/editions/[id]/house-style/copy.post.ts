import { copyHouseStyle } from '#store/editions'
import { idParam, route } from '../../../../utils/route'

/** Gives the edition a house style of its own. */
export default route(async (event, { database }) => {
  await copyHouseStyle(database, idParam(event))
  return { ok: true }
})
