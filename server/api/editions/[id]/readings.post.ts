import { sendChunks } from '#store/queue'
import { startReading } from '#store/readings'
import { scoreEdition } from '#store/score'
import { idParam, route } from '../../../utils/route'

/** Starts to read all that is missing in the parts that are not left out. */
export default route(async (event, { database, library, queue }) => {
  const scored = await scoreEdition(idParam(event))
  const { readingId, jobs } = await startReading(database, library.index, scored.edition.id, scored.parts.filter(part => part.row.included))
  await sendChunks(queue, jobs)
  return { readingId }
})
