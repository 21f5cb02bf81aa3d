import type { ReadingDesk } from '#shared/api'
import { readingQuerySchema, type ReadingQuery } from '#shared/schemas'
import { faultsOf, readingStatus } from '#store/readings'
import { bringUpToDate, takesOfEdition, toReadIn } from '#store/summaries'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<ReadingQuery>(readingQuerySchema)

/** The newest reading, what it could not read that the script still needs, in its order, and what another one would make, of all parts or of some. */
export default route(async (event, { database, work }): Promise<ReadingDesk> => {
  const id = idParam(event)
  const { parts } = query(event)
  await bringUpToDate(database, id, work.summarise)
  const reading = await readingStatus(database, id)
  return {
    reading,
    faults: reading === null || reading.faults === 0 ? [] : await faultsOf(database, reading.id, await takesOfEdition(database, id)),
    toRead: await toReadIn(database, id, parts === undefined ? null : parts.split(',')),
  }
})
