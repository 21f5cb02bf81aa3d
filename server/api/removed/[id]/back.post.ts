import { putBack } from '#store/removed'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await putBack(database, idParam(event))
  return { ok: true }
})
