import { dirname } from 'node:path'
import { v7 as uuidv7 } from 'uuid'
import { openStorage } from '#takes/open-storage'
import { Packs } from '#takes/packs'
import { openEngines } from '#voices/engines'
import { storedAccounts } from '#store/accounts'
import { openDatabase, startProblem } from '#store/database'
import { dropOldEvents } from '#store/events'
import { unfinishedDeliveries } from '#store/deliveries'
import { deliverQueue, dropLostJobs, openQueue, readQueue, sendChunks, sendDelivery, type DeliverJob, type ReadChunkJob } from '#store/queue'
import { log } from '#store/log'
import { yieldBy } from '#store/priority'
import { stopReading, unfinishedChunks } from '#store/readings'
import { secretsIn } from '#store/secrets'
import { takeIndex } from '#store/take-index'
import { endWithSupervisor } from '#store/supervised'
import { tidy, tidyMs, type Leftovers } from '#store/tidy'
import { abandonedWork, forgetWorker, noteWorker } from '#store/workers'
import { deliverJob, failDelivery } from './deliver'
import { runJobs } from './jobs'
import { obstacle } from './obstacle'
import { readChunk } from './read'
import type { Workplace } from './workplace'

/** After whoever waits, and after what is done beside the server for somebody who waits. */
const priority = 15

const leftovers: Leftovers = new Map()

/** Between two signs of life. */
const beatMs = 10_000

const { QUILL_DATABASE_URL: url, QUILL_WORKER: worker = uuidv7() } = process.env
if (url === undefined) throw new Error('QUILL_DATABASE_URL must be set.')

// Whoever waits before a page is answered first; engines and encoders take what is left, which is all of it when nobody waits.
yieldBy(priority)
const database = openDatabase(url)
const queue = await openQueue(url, 'worker').catch((error: unknown) => {
  log.fatal(startProblem('worker', url, error))
  process.exit(1)
})
const storage = await openStorage(process.env)
const packs = new Packs(storage)
const engines = openEngines({ programs: dirname(process.argv[1]!), parallel: 2, accounts: storedAccounts(database, secretsIn(process.env['QUILL_DATA']!)) })
const workplace: Workplace = { worker, database, library: { index: takeIndex(database, worker), packs }, engines, storage }

await resume()

/** Two chunks at once, so that the engine has work while one of them is fetched or ends. */
const reading = [1, 2].map(() => runJobs<ReadChunkJob>(database, queue, readQueue, {
  work: job => readChunk(workplace, job), giveUp: (job, problem) => stopReading(database, job.readingId, problem),
}))
const delivering = runJobs<DeliverJob>(database, queue, deliverQueue, {
  work: job => deliverJob(workplace, job), giveUp: (job, problem) => failDelivery(workplace, job, problem),
})
const timers = [every(beatMs, beat), every(tidyMs, clear)]

/** Does something now and from time to time; that it fails, as while the database is away, is logged only. */
function every(ms: number, step: () => Promise<void>): NodeJS.Timeout {
  const attempt = (): void => { step().catch((error: unknown) => { log.warn({ err: error }, 'A regular step failed') }) }
  attempt()
  return setInterval(attempt, ms)
}

/** Says that this worker is there, and takes up what was left by one that is not. */
async function beat(): Promise<void> {
  await noteWorker(database, worker, await obstacle(engines, storage))
  const { chunks, deliveries } = await abandonedWork(database, worker)
  await queueAgain(chunks, deliveries)
}

/** Queues work again that whoever had it in hand does not end any more. */
async function queueAgain(chunks: readonly ReadChunkJob[], deliveries: readonly string[]): Promise<void> {
  await dropLostJobs(database, readQueue, chunks)
  await sendChunks(queue, chunks)
  const jobs = deliveries.map((deliveryId): DeliverJob => ({ deliveryId }))
  await dropLostJobs(database, deliverQueue, jobs)
  for (const job of jobs) await sendDelivery(queue, job)
}

async function clear(): Promise<void> {
  await dropOldEvents(database)
  const removed = await tidy(database, storage, packs, leftovers)
  if (removed.length > 0) log.info({ removed }, 'Leftovers are removed')
}

/** What this worker had in hand when it was killed is queued again at once; its jobs would expire only after a minute. */
async function resume(): Promise<void> {
  if (process.env['QUILL_RESUME'] === undefined) return
  await queueAgain(await unfinishedChunks(database), await unfinishedDeliveries(worker))
}

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  for (const timer of timers) clearInterval(timer)
  await Promise.all([...reading, delivering].map(jobs => jobs.stop()))
  await engines.close()
  await packs.close()
  await storage.close()
  await forgetWorker(database, worker).catch(() => undefined)
  await queue.stop({ graceful: true, wait: true, timeout: 5_000 })
  await database.close()
  process.exit(0)
}

endWithSupervisor()
process.on('SIGTERM', () => void stop())
process.on('SIGINT', () => void stop())
