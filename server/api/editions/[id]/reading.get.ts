import type { ReadingDesk } from '#shared/api'
import { faultsOf, readingStatus } from '#store/readings'
import { bringUpToDate, takesOfEdition } from '#store/summaries'
import { idParam, route } from '../../../utils/route'

/** The newest reading, and what it could not read that the script still needs, in its order. */
export default route(async (event, { database, work }): Promise<ReadingDesk> => {
  const id = idParam(event)
  const reading = await readingStatus(database, id)
  if (reading === null || reading.faults === 0) return { reading, faults: [] }
  await bringUpToDate(database, id, work.summarise)
  return { reading, faults: await faultsOf(database, reading.id, await takesOfEdition(database, id)) }
})
