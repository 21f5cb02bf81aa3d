import { fail, ProblemError } from '#core/problem'
import { partBytes } from '#store/sizes'
import { ChildLostError, ChildPool, type PoolOptions } from '#voices/child-pool'
import { operate, undoEdit } from './edits'
import type { Place } from './place'
import type { TaskAnswer } from './task-child'
import type { tasks, TaskInput, TaskName, TaskResult } from './tasks'

/** To compile up to so many bytes of text is quick work, done within about a second. */
const mostQuick = 100_000

const longestMs = 10 * 60_000

/** For quick work one process that is always there, and does many tasks by turns. */
const quick: Omit<PoolOptions, 'program'> = {
  size: 1, atOnce: 16, recycleAfter: 20_000, timeoutMs: longestMs, ownSession: true, execArgv: ['--max-old-space-size=768'], environment: { QUILL_CONNECTIONS: '8' },
}

/** Beyond so many bytes a piece of work is huge: it may take minutes. */
const mostHeavy = 1_500_000

/**
 * For other work processes that end when there was nothing to do for a while, and so give their memory back. Whoever waits for quick work is answered first; readings and deliveries come after all.
 * What is heavy is done by turns. What is huge takes a gigabyte of memory and more, so that there is one at a time; to bring its summaries up to date, which nobody waits for on the shelf, is the work of a process of its own.
 */
const heavy: Omit<PoolOptions, 'program'> = {
  size: 1, atOnce: 4, recycleAfter: 200, timeoutMs: longestMs, idleMs: 60_000, ownSession: true, execArgv: ['--max-old-space-size=2048'], environment: { QUILL_CONNECTIONS: '4', QUILL_YIELD_BY: '10' },
}
const huge: Omit<PoolOptions, 'program'> = { ...heavy, atOnce: 1 }

/** What does not compile, and what is made of summaries, takes this share of the time that compiling takes, or less. */
const lightShare = 0.2
const light: ReadonlySet<TaskName> = new Set<TaskName>(['found', 'findIn', 'divisionOf', 'materialOf', 'scriptFile', 'runSheetOf', 'runSheetTable', 'reportFile', 'passagesOfFile', 'wordbookFile', 'readWordbook'])

/** Tasks that are not done twice. */
const changing: ReadonlySet<TaskName> = new Set<TaskName>(['operate', 'undoEdit', 'takeOver', 'readMissing', 'orderDelivery'])

/**
 * Tasks that are done in the server itself when they have no text to compute on. It must not load the others: their dictionaries and drawing libraries would hold it up for a second,
 * and make its heap, and so each collection of garbage, larger.
 */
const here: Partial<typeof tasks> = { operate, undoEdit }

/** Does use cases beside the server, so that they keep nobody else waiting: its main thread passes their answers on. A change with no text to compute on is made at once. */
export class Work {
  readonly #place: Place
  readonly #quick: ChildPool
  readonly #heavy: ChildPool
  readonly #huge: ChildPool
  readonly #summaries: ChildPool

  /** `program` is the bundled `task-child`, which opens the same storage by `environment`, where that of this process does not name it. */
  constructor(place: Place, program: string, environment: Readonly<Record<string, string>> = {}) {
    this.#place = place
    const pool = (options: Omit<PoolOptions, 'program'>): ChildPool =>
      new ChildPool({ ...options, program, environment: { QUILL_DATABASE_URL: place.database.url, ...options.environment, ...environment } })
    this.#quick = pool(quick)
    this.#heavy = pool(heavy)
    this.#huge = pool(huge)
    this.#summaries = pool(huge)
    this.#quick.warm()
  }

  /** The result of a task on so many bytes of text. Rejects with a problem. */
  async result<N extends TaskName>(name: N, input: TaskInput<N>, bytes: number): Promise<TaskResult<N>> {
    const task = bytes === 0 ? here[name] : undefined
    if (task !== undefined) return await (task as (place: Place, input: TaskInput<N>) => Promise<TaskResult<N>>)(this.#place, input)
    const { of, pieces } = await this.#beside(name, input, bytes)
    const whole = Buffer.concat(pieces)
    return (of === 'bytes' ? whole : JSON.parse(whole.toString('utf8'))) as TaskResult<N>
  }

  /** The same as it is sent to a browser: what comes from beside the server is JSON already. */
  async answer<N extends TaskName>(name: N, input: TaskInput<N>, bytes: number): Promise<Buffer | { readonly json: readonly Buffer[] }> {
    const { of, pieces } = await this.#beside(name, input, bytes)
    return of === 'bytes' ? Buffer.concat(pieces) : { json: pieces }
  }

  /** Has the summaries of an edition brought up to date beside the server, when there is something to compile. */
  readonly summarise = async (editionId: string, bytes: number): Promise<boolean> => {
    if (bytes === 0) return false
    await this.#beside('summarise', { editionId }, bytes)
    return true
  }

  /** Length of a part in samples as it is now. */
  readonly samplesOf = async (editionId: string, partId: string): Promise<number> => this.result('samplesOf', { editionId, partId }, await partBytes(this.#place.database, partId))

  close(): void {
    this.#quick.close()
    this.#heavy.close()
    this.#huge.close()
    this.#summaries.close()
  }

  async #beside<N extends TaskName>(name: N, input: TaskInput<N>, bytes: number): Promise<{ readonly of: 'json' | 'bytes', readonly pieces: readonly Buffer[] }> {
    const large = name === 'summarise' ? this.#summaries : this.#huge
    const weight = light.has(name) ? bytes * lightShare : bytes
    const pool = weight <= mostQuick ? this.#quick : weight <= mostHeavy ? this.#heavy : large
    let pieces: Buffer[] = []
    const ask = (): Promise<unknown> => {
      pieces = []
      return pool.ask({ name, input }, answer => { pieces.push((answer as { readonly piece: Buffer }).piece) })
    }
    const isLost = (error: unknown): undefined => {
      if (error instanceof ChildLostError) return undefined
      throw error
    }
    // One that was ended from outside is asked once more, unless it may have changed something already.
    const answer = await ask().catch(isLost) ?? (changing.has(name) ? undefined : await ask().catch(isLost))
    if (answer === undefined) return fail('too-large', 'This is too much to be done at once on this machine, or was ended from outside. Load the page again; if it stays so, divide the production, or give the machine more memory.')
    const done = answer as TaskAnswer
    if ('problem' in done) throw new ProblemError(done.problem)
    if ('error' in done) throw new Error(done.error)
    return { of: done.of, pieces: [...pieces, done.piece] }
  }
}
