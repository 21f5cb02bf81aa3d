import { readingSchema, type ReadingRequest } from '#shared/schemas'
import { sendChunks } from '#store/queue'
import { editionBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ReadingRequest>(readingSchema)

/** Starts to read all that is missing in the parts that are not left out, or in those of them that are chosen. */
export default route(async (event, { database, queue, work }) => {
  const editionId = idParam(event)
  const { parts } = await body(event)
  const { readingId, jobs } = await work.result('readMissing', { editionId, parts }, await editionBytes(database, editionId))
  await sendChunks(queue, jobs)
  return { readingId }
})
