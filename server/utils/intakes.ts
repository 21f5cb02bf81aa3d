import { join } from 'node:path'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import { takeIn } from '#intake/take-in'
import { log } from '#store/log'
import type { ManuscriptRow } from '#store/models'
import type { Workshop } from './workshop'

interface Running {
  progress: number
  readonly stop: AbortController
  done: Promise<void>
}

/** The intakes of this process, by document. */
const running = new Map<string, Running>()

/** Reads a document in the background; one that is being read is left alone. */
export function startIntake(row: ManuscriptRow, { folders, readerProgram }: Workshop): Running {
  const known = running.get(row.id)
  if (known !== undefined) return known
  const stop = new AbortController()
  const job: Running = { progress: 0, stop, done: Promise.resolve() }
  running.set(row.id, job)
  const found = takeIn(readerProgram, join(folders.manuscripts, row.sha256), row.fileName, row.options, {
    signal: stop.signal, onProgress: share => { job.progress = share },
  }).then(content => ({ content, state: 'ready' as const, progress: 1, problem: null }), (error: unknown) => ended(row, error, stop.signal.aborted))
  // When the database is away just now, the document still counts as being read, and the next question begins anew.
  job.done = found.then(result => row.update(result))
    .catch((error: unknown) => { log.error({ err: error, manuscript: row.id }, 'The end of an intake could not be noted') })
    .then(() => { running.delete(row.id) })
  return job
}

/** What is noted of a document that could not be read to its end. */
function ended(row: ManuscriptRow, error: unknown, stopped: boolean): { state: 'stopped' | 'failed', problem: Problem } {
  const known = asProblem(error)
  if (!(known instanceof ProblemError)) log.error({ err: error, manuscript: row.id }, 'An intake failed')
  const problem = known instanceof ProblemError ? known.problem : { code: 'internal', message: `${row.fileName} could not be read because of a fault in this program. It is in the log.` }
  return { state: stopped ? 'stopped' : 'failed', problem }
}

/** How far a document is; one whose process has ended is taken up again. */
export function progressOf(row: ManuscriptRow, shop: Workshop): number {
  return row.state === 'reading' ? startIntake(row, shop).progress : row.progress
}

/** Stops the reading of a document, and waits until it has ended. */
export async function stopIntake(id: string): Promise<void> {
  const job = running.get(id)
  job?.stop.abort()
  await job?.done
}
