import { stopReading } from '#store/readings'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  await stopReading(database, idParam(event))
  return { ok: true }
})
