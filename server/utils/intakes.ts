import { join } from 'node:path'
import PQueue from 'p-queue'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import { intakeStopped, takeInAsJson } from '#intake/take-in'
import { log } from '#store/log'
import { endIntake } from '#store/manuscripts'
import type { ManuscriptRow } from '#store/models'
import type { Workshop } from './workshop'

/** Documents that are read at once: each reader may take a gigabyte of memory and more. */
const readersAtOnce = 2
const readers = new PQueue({ concurrency: readersAtOnce })

/** How far a document is on its way in. */
export interface IntakeProgress {
  /** How far its reading is, 0…1. */
  readonly progress: number
  /** Documents whose turn comes before; 0 from when its reading has begun. */
  readonly ahead: number
}

interface Running {
  progress: number
  hasBegun: boolean
  readonly stop: AbortController
  done: Promise<void>
}

/** The intakes of this process, by document, in the order of their turns. */
const running = new Map<string, Running>()

/** Reads a document in the background, when its turn comes; one that is being read is left alone. */
export function startIntake(row: ManuscriptRow, shop: Workshop): void {
  if (running.has(row.id)) return
  const job: Running = { progress: 0, hasBegun: false, stop: new AbortController(), done: Promise.resolve() }
  running.set(row.id, job)
  const found = readInTurn(row, job, shop)
    .then(content => ({ content, state: 'ready' as const, problem: null }), (error: unknown) => ended(row, error, job.stop.signal.aborted))
  // When the database is away just now, the document still counts as being read, and the next question begins anew.
  job.done = found.then(result => endIntake(shop.database, row.id, result))
    .catch((error: unknown) => { log.error({ err: error, manuscript: row.id }, 'The end of an intake could not be noted') })
    .then(() => { running.delete(row.id) })
}

/** Reads a document when its turn comes; one that is stopped before that ends at once. */
function readInTurn(row: ManuscriptRow, job: Running, { folders, readerProgram }: Workshop): Promise<string> {
  const { signal } = job.stop
  return new Promise((resolve, reject) => {
    signal.addEventListener('abort', () => { if (!job.hasBegun) reject(intakeStopped(row.fileName)) }, { once: true })
    void readers.add(async () => {
      if (signal.aborted) return
      job.hasBegun = true
      await takeInAsJson(readerProgram, join(folders.manuscripts, row.sha256), row.fileName, row.options, { signal, onProgress: share => { job.progress = share } }).then(resolve, reject)
    })
  })
}

/** What is noted of a document that could not be read to its end. */
function ended(row: ManuscriptRow, error: unknown, stopped: boolean): { content: null, state: 'stopped' | 'failed', problem: Problem } {
  const known = asProblem(error)
  if (!(known instanceof ProblemError)) log.error({ err: error, manuscript: row.id }, 'An intake failed')
  const problem = known instanceof ProblemError ? known.problem : { code: 'internal', message: `${row.fileName} could not be read because of a fault in this program. It is in the log.` }
  return { content: null, state: stopped ? 'stopped' : 'failed', problem }
}

/** How far a document is; one whose process has ended is taken up again. */
export function progressOf(row: ManuscriptRow, shop: Workshop): IntakeProgress {
  if (row.state !== 'reading') return { progress: row.progress, ahead: 0 }
  startIntake(row, shop)
  const { progress, hasBegun } = running.get(row.id)!
  return { progress, ahead: hasBegun ? 0 : [...running.keys()].indexOf(row.id) }
}

/** Stops the reading of a document, and waits until it has ended. */
export async function stopIntake(id: string): Promise<void> {
  const job = running.get(id)
  job?.stop.abort()
  await job?.done
}
