import { fail, ProblemError } from '#core/problem'
import { ChildLostError, ChildPool } from '#voices/child-pool'
import type { HeavyAnswer } from './heavy-child'
import type { Place } from './place'
import { tasks, type TaskInput, type TaskName, type TaskResult } from './tasks'

/** So many bytes of text are worked on in the server itself: some tenths of a second at most, in stretches that let others have their turn. */
const mostHere = 300_000

/** Processes beside the server, and how long each may take. They end when there was nothing to do for a while, and so give their memory back. */
const processes = 2
const longestMs = 10 * 60_000
const idleMs = 60_000
const heapMb = 2_048

/** Tasks that are not done twice. */
const changing: ReadonlySet<TaskName> = new Set<TaskName>(['operate', 'undoEdit', 'takeOver', 'readMissing', 'orderDelivery'])

/** Does use cases where they belong: small ones here, large ones in a process beside the server. */
export class Work {
  readonly #place: Place
  readonly #pool: ChildPool

  /** `program` is the bundled `heavy-child`, which opens the same storage by `environment`, where that of this process does not name it. */
  constructor(place: Place, program: string, environment: Readonly<Record<string, string>> = {}) {
    this.#place = place
    this.#pool = new ChildPool({
      program, size: processes, recycleAfter: 200, timeoutMs: longestMs, idleMs, ownSession: true, execArgv: [`--max-old-space-size=${heapMb}`],
      environment: { QUILL_DATABASE_URL: place.database.url, ...environment },
    })
  }

  /** The result of a task on so many bytes of text. Rejects with a problem. */
  async result<N extends TaskName>(name: N, input: TaskInput<N>, bytes: number): Promise<TaskResult<N>> {
    if (bytes <= mostHere) return await (tasks[name] as (place: Place, input: TaskInput<N>) => Promise<TaskResult<N>>)(this.#place, input)
    const done = await this.#elsewhere(name, input)
    return 'bytes' in done ? done.bytes as TaskResult<N> : JSON.parse(done.json.toString('utf8')) as TaskResult<N>
  }

  /** The same as it is sent to a browser: what comes from beside the server is JSON already. */
  async answer<N extends TaskName>(name: N, input: TaskInput<N>, bytes: number): Promise<TaskResult<N> | { readonly json: Buffer }> {
    if (bytes <= mostHere) return this.result(name, input, bytes)
    const done = await this.#elsewhere(name, input)
    return 'bytes' in done ? done.bytes as TaskResult<N> : done
  }

  /** Has the summaries of an edition brought up to date beside the server, when there is much to compile. */
  readonly summarise = async (editionId: string, bytes: number): Promise<boolean> => {
    if (bytes <= mostHere) return false
    await this.#elsewhere('summarise', { editionId })
    return true
  }

  close(): void {
    this.#pool.close()
  }

  async #elsewhere<N extends TaskName>(name: N, input: TaskInput<N>): Promise<{ readonly json: Buffer } | { readonly bytes: Buffer }> {
    const ask = (): Promise<unknown> => this.#pool.ask({ name, input })
    const isLost = (error: unknown): undefined => {
      if (error instanceof ChildLostError) return undefined
      throw error
    }
    // One that was ended from outside is asked once more, unless it may have changed something already.
    const answer = await ask().catch(isLost) ?? (changing.has(name) ? undefined : await ask().catch(isLost))
    if (answer === undefined) return fail('too-large', 'This is too much to be done at once on this machine, or was ended from outside. Load the page again; if it stays so, divide the production, or give the machine more memory.')
    const done = answer as HeavyAnswer
    if ('problem' in done) throw new ProblemError(done.problem)
    if ('error' in done) throw new Error(done.error)
    return done
  }
}
