import { setTimeout as sleep } from 'node:timers/promises'
import type PgBoss from 'pg-boss'
import type { Problem } from '#core/problem'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { outage, type Outage } from '#store/outage'
import { renewJob } from '#store/queue'

/** Between two looks at an empty queue. */
const idleMs = 300
const renewalsPerJob = 4

export interface JobKind<T> {
  readonly work: (job: T) => Promise<void>
  /** Ends what the job was for, after its last attempt has failed. */
  readonly giveUp: (job: T, problem: Problem) => Promise<unknown>
}

/**
 * Works a queue off, one job after the other and the next at once: the queue's own polling would leave the
 * engine idle between two chunks. A job in hand does not expire while its work goes on, however slow that is. `stop` waits for the job in hand.
 */
export function runJobs<T extends object>(database: Database, queue: PgBoss, name: string, { work, giveUp }: JobKind<T>): { stop: () => Promise<void> } {
  const ending = new AbortController()
  const trouble = outage(`The queue “${name}”`)
  const loop = async (): Promise<void> => {
    while (!ending.signal.aborted) {
      const job = await nextJob<T>(queue, name, trouble)
      if (job === null) {
        await sleep(idleMs, undefined, { signal: ending.signal }).catch(() => undefined)
        continue
      }
      const began = performance.now()
      const about = { job: job.id, queue: name, data: job.data }
      const renewing = setInterval(() => { renewJob(database, name, job.id).then(trouble.over, trouble.failed) }, job.expireInSeconds * 1000 / renewalsPerJob)
      try {
        await work(job.data).finally(() => { clearInterval(renewing) })
        await persist(() => queue.complete(name, job.id), trouble)
        log.info({ ...about, ms: Math.round(performance.now() - began) }, 'A job is done')
      } catch (error) {
        log.error({ err: error, ...about }, 'A job failed')
        if (job.retryCount >= job.retryLimit) await persist(async () => { await giveUp(job.data, unexpected(job.id)) }, trouble)
        await persist(() => queue.fail(name, job.id, { message: (error as Error).message }), trouble)
      }
    }
  }
  const running = loop()
  return {
    stop: async () => {
      ending.abort()
      await running
    },
  }
}

function unexpected(job: string): Problem {
  return { code: 'internal', message: `Something went wrong in the worker, every time it was tried. In its log it is job ${job}. Try again; what is done is kept.` }
}

/** Says how a job ended, also when the database is away for a while; after half a minute the job expires by itself. */
async function persist(say: () => Promise<void>, trouble: Outage): Promise<void> {
  for (let attempt = 0; attempt < 60; attempt += 1) {
    try {
      await say()
      trouble.over()
      return
    } catch (error) {
      trouble.failed(error)
    }
    await sleep(500)
  }
}

/** Null when there is none, or the database does not answer; the next look may find it. */
async function nextJob<T extends object>(queue: PgBoss, name: string, trouble: Outage): Promise<PgBoss.JobWithMetadata<T> | null> {
  try {
    const [job] = await queue.fetch<T>(name, { includeMetadata: true })
    trouble.over()
    return job ?? null
  } catch (error) {
    trouble.failed(error)
    return null
  }
}
