import { changeEdition } from '#store/editions'
import { idParam, route } from '../../../../utils/route'

/** Takes the cover away; files that have it keep it. */
export default route(async (event, { database }) => {
  await changeEdition(database, idParam(event), { cover: null })
  return { ok: true }
})
