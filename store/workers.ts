import type { Problem } from '#core/problem'
import type { Database } from './database'
import { deliverQueue, readQueue, type ReadChunkJob } from './queue'
import { unfinishedChunks } from './readings'

/** A worker that has not been seen for so long has ended. */
const goneAfterSeconds = 30

/** Notes that a worker is there, and what keeps it from working, if anything does. */
export async function noteWorker(database: Database, id: string, problem: Problem | null = null): Promise<void> {
  await database.rows('INSERT INTO workers (id, problem) VALUES ($1, $2) ON CONFLICT (id) DO UPDATE SET seen_at = now(), problem = $2 RETURNING id', [id, problem === null ? null : JSON.stringify(problem)])
  await database.rows('DELETE FROM workers WHERE seen_at < now() - interval \'1 day\' RETURNING id')
}

export async function forgetWorker(database: Database, id: string): Promise<void> {
  await database.rows('DELETE FROM workers WHERE id = $1 RETURNING id', [id])
}

/** Whether a worker, a row `w`, was seen lately. A clock that was put back must not keep one that has ended. */
const isThere = (seconds: string): string => `w.seen_at BETWEEN now() - ${seconds} * interval '1 second' AND now() + ${seconds} * interval '1 second'`

/** The workers that are there now, with what keeps each from working. */
export function workersSeen(database: Database): Promise<{ readonly id: string, readonly problem: Problem | null }[]> {
  return database.rows(`SELECT id, problem FROM workers w WHERE ${isThere('$1')} ORDER BY started_at`, [goneAfterSeconds])
}

/** Whether a job of the queue waits or is in hand that names `id` under `member`. */
const hasJob = (queue: string, member: string, id: string): string =>
  `EXISTS (SELECT 1 FROM pgboss.job j WHERE j.name = '${queue}' AND j.state < 'completed' AND j.data->>'${member}' = ${id}::text)`

/** Work that nobody does: its worker has ended and does not come back, or its jobs were lost. What is given to `worker` is given to no other. */
export async function abandonedWork(database: Database, worker: string): Promise<{ chunks: ReadChunkJob[], deliveries: string[] }> {
  const readings = await database.rows<{ id: string }>(
    `SELECT id FROM readings r WHERE state = 'running' AND created_at < now() - $1 * interval '1 second' AND NOT ${hasJob(readQueue, 'readingId', 'r.id')}`, [goneAfterSeconds])
  const lost = new Set(readings.map(row => row.id))
  const deliveries = await database.rows<{ id: string }>(
    'UPDATE deliveries d SET worker = $2 WHERE state = \'running\' AND ('
    + `worker IS NOT NULL AND NOT EXISTS (SELECT 1 FROM workers w WHERE w.id = d.worker AND ${isThere('$1')}) `
    + `OR worker IS NULL AND created_at < now() - $1 * interval '1 second' AND NOT ${hasJob(deliverQueue, 'deliveryId', 'd.id')}) RETURNING id`, [goneAfterSeconds, worker])
  return {
    chunks: lost.size === 0 ? [] : (await unfinishedChunks(database)).filter(chunk => lost.has(chunk.readingId)),
    deliveries: deliveries.map(row => row.id),
  }
}

export interface QueueLength {
  readonly waiting: number
  readonly inHand: number
}

export async function queueLength(database: Database): Promise<QueueLength> {
  const [row] = await database.rows<{ waiting: string, inHand: string }>(
    'SELECT count(*) FILTER (WHERE state < \'active\') AS waiting, count(*) FILTER (WHERE state = \'active\') AS "inHand" '
    + 'FROM pgboss.job WHERE name IN ($1, $2) AND state < \'completed\'', [readQueue, deliverQueue])
  return { waiting: Number(row!.waiting), inHand: Number(row!.inHand) }
}
