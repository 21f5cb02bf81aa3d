import { setTimeout as sleep } from 'node:timers/promises'
import { ProblemError } from '#core/problem'
import { makeTakes } from '#reading/make-takes'
import type { ReadChunkJob } from '#store/queue'
import { outage } from '#store/outage'
import { isRunning, noteFault, noteProgress, openChunk, stopReading } from '#store/readings'
import type { Workplace } from './workplace'

/** Between two looks at takes that another process is making. */
const waitMs = 250

/** Makes the takes of one chunk. What a chunk that died before has stored is not made again. */
export async function readChunk({ database, library, engines }: Workplace, job: ReadChunkJob): Promise<void> {
  let running = true
  const trouble = outage('The look whether a reading still runs')
  const watch = setInterval(() => {
    isRunning(database, job.readingId).then(still => {
      running = still
      trouble.over()
    }, trouble.failed)
  }, waitMs)
  try {
    for (;;) {
      const wanted = await openChunk(database, job)
      if (wanted === null || wanted.length === 0) break
      const made = await makeTakes(wanted, library, engines, {
        onStored: () => noteProgress(database, job.readingId),
        onFault: (fault, problem) => noteFault(database, job.readingId, fault.key, problem),
        stopped: () => !running,
      })
      if (made.length === 0) await sleep(waitMs)
    }
    await noteProgress(database, job.readingId)
  } catch (error) {
    // Such as a full disk: it concerns every utterance, so the reading stops and says why.
    if (!(error instanceof ProblemError)) throw error
    await stopReading(database, job.readingId, error.problem)
  } finally {
    clearInterval(watch)
  }
}
