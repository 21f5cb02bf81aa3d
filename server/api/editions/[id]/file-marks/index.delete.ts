import { clearMarks } from '#store/run-sheet'
import { idParam, route } from '../../../../utils/route'

/** Takes all marks away. */
export default route(async (event, { database }) => {
  await clearMarks(database, idParam(event))
  return { ok: true }
})
