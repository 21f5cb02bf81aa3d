import { setTimeout as sleep } from 'node:timers/promises'
import PQueue from 'p-queue'
import { v7 as uuidv7 } from 'uuid'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import { intakeStopped, takeInAsJson } from '#intake/take-in'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { askToStopIntake, claimIntake, endIntake, intakeTurn, keepIntake, waitingIntakes, type IntakeEnd } from '#store/manuscripts'
import { manuscriptFile } from '#store/folders'
import { ManuscriptRow } from '#store/models'
import { outage } from '#store/outage'
import type { Workshop } from './workshop'

/** Documents that are read at once: each reader may take a gigabyte of memory and more. */
const readersAtOnce = 2
const readers = new PQueue({ concurrency: readersAtOnce })

/** This process among those that read documents. */
const self = uuidv7()
/** Between two signs that a document is still being read. */
const signMs = 1_000

/** Between two looks for documents that nobody reads. */
const takeUpMs = 3_000

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

/** The intakes that this process does, or will when their turn comes, by document. */
const running = new Map<string, Running>()

/** Reads a document in the background, when its turn comes and nobody else does. */
function startIntake(row: ManuscriptRow, shop: Workshop): void {
  if (running.has(row.id)) return
  const job: Running = { progress: 0, hasBegun: false, stop: new AbortController(), done: Promise.resolve() }
  running.set(row.id, job)
  // When the database is away just now, the document still counts as being read, and the next question begins anew.
  job.done = Promise.resolve(readers.add(async () => { if (!job.stop.signal.aborted) await readClaimed(row, job, shop) }))
    .catch((error: unknown) => { log.error({ err: error, manuscript: row.id }, 'An intake could not be noted') })
    .then(() => { running.delete(row.id) })
}

/** Takes up, from time to time, what nobody reads: its server has ended, or another has more than it can read. Call what is returned to end it. */
export function takeUpIntakes(shop: Workshop): () => void {
  const trouble = outage('Taking up documents')
  const timer = setInterval(() => {
    takeUp(shop).then(trouble.over, trouble.failed)
  }, takeUpMs)
  return () => { clearInterval(timer) }
}

async function takeUp(shop: Workshop): Promise<void> {
  if (readers.pending === readersAtOnce) return
  const ids = await waitingIntakes(shop.database)
  for (const row of await ManuscriptRow.findAll({ where: { id: ids }, attributes: { exclude: ['content'] }, order: [['id', 'ASC']] })) startIntake(row, shop)
}

async function readClaimed(row: ManuscriptRow, job: Running, shop: Workshop): Promise<void> {
  if (!await claimIntake(shop.database, row.id, self)) return
  job.hasBegun = true
  const signs = setInterval(() => {
    keepIntake(shop.database, row.id, self, job.progress).then(still => { if (still !== 'go') job.stop.abort() }, (error: unknown) => { log.warn({ err: error, manuscript: row.id }, 'How far an intake is could not be noted') })
  }, signMs)
  try {
    await endIntake(shop.database, row.id, self, await read(row, job, shop))
  } finally {
    clearInterval(signs)
  }
}

async function read(row: ManuscriptRow, job: Running, { storage, readerProgram }: Workshop): Promise<IntakeEnd> {
  const { signal } = job.stop
  try {
    const content = await storage.withLocal(manuscriptFile(row.sha256), path =>
      takeInAsJson(readerProgram, path, row.fileName, row.options, { signal, onProgress: share => { job.progress = share } }))
    return { content, state: 'ready', problem: null }
  } catch (error) {
    return { content: null, state: signal.aborted ? 'stopped' : 'failed', problem: problemOf(row, error) }
  }
}

function problemOf({ id, fileName }: ManuscriptRow, error: unknown): Problem {
  const known = asProblem(error)
  if (known instanceof ProblemError) return known.problem
  log.error({ err: error, manuscript: id }, 'An intake failed')
  return { code: 'internal', message: `${fileName} could not be read because of a fault in this program. It is in the log.` }
}

/** How far a document is. One that nobody reads, as when its process has ended, is taken up. */
export async function progressOf(row: ManuscriptRow, shop: Workshop): Promise<IntakeProgress> {
  if (row.state !== 'reading') return { progress: row.progress, ahead: 0 }
  const own = running.get(row.id)
  if (own?.hasBegun === true) return { progress: own.progress, ahead: 0 }
  const { isHeld, progress, ahead } = await intakeTurn(shop.database, row.id)
  if (isHeld) return { progress, ahead: 0 }
  startIntake(row, shop)
  return { progress: 0, ahead }
}

/** A server that was asked to stop has done so within this time, or has ended. */
const mostStopMs = 10_000
const lookMs = 100

/** Stops the reading of a document, whoever does it, and waits until it has ended. */
export async function stopIntake({ id, fileName }: Pick<ManuscriptRow, 'id' | 'fileName'>, database: Database): Promise<void> {
  const own = running.get(id)
  own?.stop.abort()
  if (own?.hasBegun === true) await own.done
  for (let waited = 0; waited < mostStopMs && await askToStopIntake(database, id, intakeStopped(fileName).problem); waited += lookMs) await sleep(lookMs)
}
