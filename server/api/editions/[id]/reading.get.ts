import type { ReadingDesk } from '#shared/api'
import { faultsOf, readingStatus } from '#store/readings'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }): Promise<ReadingDesk> => {
  const reading = await readingStatus(database, idParam(event))
  return { reading, faults: reading === null || reading.faults === 0 ? [] : await faultsOf(database, reading.id) }
})
