import PgBoss from 'pg-boss'
import type { Database } from './database'
import { outage } from './outage'

/** One chunk of a reading. */
export interface ReadChunkJob {
  readonly readingId: string
  readonly chunk: number
}

export interface DeliverJob {
  readonly deliveryId: string
}

export const readQueue = 'read-chunk'
export const deliverQueue = 'deliver'

/** A chunk is about 20 s of work: what has not ended after this long died with its worker. */
const chunkExpirySeconds = 60
const deliveryExpirySeconds = 60 * 60

/** The job queue. Only workers supervise it. */
export async function openQueue(url: string, role: 'server' | 'worker'): Promise<PgBoss> {
  const boss = new PgBoss({
    connectionString: url, max: 4,
    ...(role === 'worker' ? { maintenanceIntervalSeconds: 5, monitorStateIntervalSeconds: 5 } : { supervise: false }),
    schedule: false,
  })
  const trouble = outage('The job queue')
  boss.on('error', trouble.failed)
  await boss.start()
  await boss.createQueue(readQueue)
  await boss.createQueue(deliverQueue)
  return boss
}

/** Ends jobs that a worker had in hand when it was killed, before their work is queued anew; they would stay in hand until they expire. */
export async function dropLostJobs(database: Database, queue: string, work: readonly object[]): Promise<void> {
  if (work.length === 0) return
  await database.rows(
    'UPDATE pgboss.job SET state = \'cancelled\', completed_on = now() WHERE name = $1 AND state = \'active\' AND data IN (SELECT jsonb_array_elements($2::jsonb)) RETURNING id',
    [queue, JSON.stringify(work)])
}

/** Begins the time anew that a job in hand may take: whoever works on it is there. */
export async function renewJob(database: Database, queue: string, id: string): Promise<void> {
  await database.rows('UPDATE pgboss.job SET started_on = now() WHERE name = $1 AND id = $2 AND state = \'active\' RETURNING id', [queue, id])
}

export async function sendChunks(boss: PgBoss, jobs: readonly ReadChunkJob[]): Promise<void> {
  if (jobs.length === 0) return
  await boss.insert(jobs.map(data => ({ name: readQueue, data, expireInSeconds: chunkExpirySeconds, retryLimit: 10, retryDelay: 1 })))
}

export async function sendDelivery(boss: PgBoss, job: DeliverJob): Promise<void> {
  await boss.send(deliverQueue, job, { expireInSeconds: deliveryExpirySeconds, retryLimit: 3, retryDelay: 1 })
}
