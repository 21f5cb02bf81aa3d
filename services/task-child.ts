import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import { storedAccounts } from '#store/accounts'
import { openDatabase } from '#store/database'
import { yieldBy } from '#store/priority'
import { secretsIn } from '#store/secrets'
import { takeIndex } from '#store/take-index'
import { openStorage } from '#takes/open-storage'
import { Packs } from '#takes/packs'
import { childIsUp } from '#voices/child-pool'
import { openEngines } from '#voices/engines'
import type { Place } from './place'
import { tasks, type TaskName } from './tasks'

// A process beside the server in which tasks are done.

export interface AskedTask {
  readonly id: number
  readonly name: TaskName
  readonly input: unknown
}

/** What comes back: JSON, or the bytes of a file, in pieces; or why there is none. */
export type TaskAnswer = { readonly of: 'json' | 'bytes', readonly piece: Buffer } | { readonly problem: Problem } | { readonly error: string }

/** A large answer comes in pieces, so that whoever passes it on is never busy with it for long. */
const pieceBytes = 1 << 20

const { QUILL_DATABASE_URL: url, QUILL_YIELD_BY: priority, QUILL_CONNECTIONS: connections } = process.env
if (url === undefined) throw new Error('QUILL_DATABASE_URL must be set.')
if (priority !== undefined) yieldBy(Number(priority))
const database = openDatabase(url, Number(connections))
const storage = await openStorage(process.env)
const engines = openEngines({ programs: dirname(fileURLToPath(import.meta.url)), parallel: 1, accounts: storedAccounts(database, secretsIn(process.env['QUILL_DATA']!)) })
const place: Place = { database, storage, engines, library: { index: takeIndex(database), packs: new Packs(storage) } }

process.on('message', (task: AskedTask) => { void answer(task) })
process.on('disconnect', () => process.exit(0))
process.send!(childIsUp)

async function answer({ id, name, input }: AskedTask): Promise<void> {
  const send = (message: TaskAnswer, more = false): void => { process.send!({ ...message, id, ...(more ? { more } : {}) }) }
  try {
    const result = await (tasks[name] as (place: Place, input: unknown) => Promise<unknown>)(place, input)
    const of = Buffer.isBuffer(result) ? 'bytes' : 'json'
    const whole = Buffer.isBuffer(result) ? result : Buffer.from(JSON.stringify(result))
    let from = 0
    for (; whole.length - from > pieceBytes; from += pieceBytes) send({ of, piece: whole.subarray(from, from + pieceBytes) }, true)
    send({ of, piece: whole.subarray(from) })
  } catch (error) {
    const known = asProblem(error)
    send(known instanceof ProblemError ? { problem: known.problem } : { error: (error as Error).stack ?? String(error) })
  }
}
