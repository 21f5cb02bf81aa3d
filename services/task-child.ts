import { asProblem, ProblemError, type Problem } from '#core/problem'
import { openDatabase } from '#store/database'
import { yieldBy } from '#store/priority'
import { takeIndex } from '#store/take-index'
import { openStorage } from '#takes/open-storage'
import { Packs } from '#takes/packs'
import type { Place } from './place'
import { tasks, type TaskName } from './tasks'

// The process beside the server in which a large script or document is worked on, one task at a time.

export interface HeavyTask {
  readonly name: TaskName
  readonly input: unknown
}

/** What comes back: JSON, or the bytes of a file. */
export type HeavyAnswer = { readonly json: Buffer } | { readonly bytes: Buffer } | { readonly problem: Problem } | { readonly error: string }

const { QUILL_DATABASE_URL: url } = process.env
if (url === undefined) throw new Error('QUILL_DATABASE_URL must be set.')
// Whoever waits for the server is answered first; readings and deliveries come after.
const priority = 10
const connections = 2
yieldBy(priority)
const database = openDatabase(url, connections)
const storage = await openStorage(process.env)
const place: Place = { database, storage, library: { index: takeIndex(database), packs: new Packs(storage) } }

process.on('message', (task: HeavyTask) => { void answer(task).then(result => process.send!(result)) })
process.on('disconnect', () => process.exit(0))

async function answer({ name, input }: HeavyTask): Promise<HeavyAnswer> {
  try {
    const result = await (tasks[name] as (place: Place, input: unknown) => Promise<unknown>)(place, input)
    return Buffer.isBuffer(result) ? { bytes: result } : { json: Buffer.from(JSON.stringify(result)) }
  } catch (error) {
    const known = asProblem(error)
    return known instanceof ProblemError ? { problem: known.problem } : { error: (error as Error).stack ?? String(error) }
  }
}
