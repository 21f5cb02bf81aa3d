import { fail } from '#core/problem'
import { stopReading } from '#store/readings'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  if (!await stopReading(database, idParam(event))) fail('not-found', 'This reading is not running any more.')
  return { ok: true }
})
