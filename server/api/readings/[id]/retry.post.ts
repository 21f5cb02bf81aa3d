import { retrySchema, type RetryRequest } from '#shared/schemas'
import { sendChunks } from '#store/queue'
import { retryFaults } from '#store/readings'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<RetryRequest>(retrySchema)

/** Reads again what could not be read: the named utterances, or all. */
export default route(async (event, { database, queue }) => {
  const { keys } = await body(event)
  const jobs = await retryFaults(database, idParam(event), keys ?? null)
  await sendChunks(queue, jobs)
  return { chunks: jobs.length }
})
