import { dirname, join } from 'node:path'
import { v7 as uuidv7 } from 'uuid'
import { Packs } from '#takes/packs'
import { EspeakEngine } from '#voices/espeak/engine'
import { openDatabase } from '#store/database'
import { dropOldEvents } from '#store/events'
import { unfinishedDeliveries } from '#store/deliveries'
import { deliverQueue, openQueue, readQueue, sendChunks, sendDelivery, type DeliverJob, type ReadChunkJob } from '#store/queue'
import { unfinishedChunks } from '#store/readings'
import { takeIndex } from '#store/take-index'
import { deliverJob } from './deliver'
import { runJobs } from './jobs'
import { readChunk } from './read'
import type { Workplace } from './workplace'

const { QUILL_DATABASE_URL: url, QUILL_DATA: data, QUILL_WORKER: worker = uuidv7() } = process.env
if (url === undefined || data === undefined) throw new Error('QUILL_DATABASE_URL and QUILL_DATA must be set.')

const database = openDatabase(url)
const queue = await openQueue(url, 'worker')
const packs = new Packs(join(data, 'takes'))
const engine = new EspeakEngine({ program: join(dirname(process.argv[1]!), 'espeak-child.mjs'), parallel: 2 })
const workplace: Workplace = { worker, database, library: { index: takeIndex(database, worker), packs }, engine, deliveries: join(data, 'deliveries') }

await resume()

const reading = runJobs<ReadChunkJob>(queue, readQueue, job => readChunk(workplace, job))
const delivering = runJobs<DeliverJob>(queue, deliverQueue, job => deliverJob(workplace, job))
const tidying = setInterval(() => void dropOldEvents(database).catch(() => undefined), 10 * 60_000)

/** What this worker had in hand when it was killed is queued again at once; its jobs would expire only after a minute. */
async function resume(): Promise<void> {
  if (process.env['QUILL_RESUME'] === undefined) return
  await sendChunks(queue, await unfinishedChunks(database))
  for (const deliveryId of await unfinishedDeliveries(worker)) await sendDelivery(queue, { deliveryId })
}

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  clearInterval(tidying)
  await Promise.all([reading.stop(), delivering.stop()])
  await engine.close()
  await packs.close()
  await queue.stop({ graceful: true, wait: true, timeout: 5_000 })
  await database.close()
  process.exit(0)
}

process.on('SIGTERM', () => void stop())
process.on('SIGINT', () => void stop())
