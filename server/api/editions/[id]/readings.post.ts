import { readingSchema, type ReadingRequest } from '#shared/schemas'
import { sendChunks } from '#store/queue'
import { startReading } from '#store/readings'
import { scoreEdition } from '#store/score'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ReadingRequest>(readingSchema)

/** Starts to read all that is missing in the parts that are not left out, or in those of them that are chosen. */
export default route(async (event, { database, library, queue }) => {
  const id = idParam(event)
  const { parts } = await body(event)
  const scored = await scoreEdition(id)
  const { readingId, jobs } = await startReading(database, library.index, scored.edition.id, scored.parts.filter(({ row }) => row.included && parts?.includes(row.id) !== false))
  await sendChunks(queue, jobs)
  return { readingId }
})
