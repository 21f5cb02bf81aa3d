import { setTimeout as sleep } from 'node:timers/promises'
import { fail } from '#core/problem'
import { ChildLostError, type ChildPool } from './child-pool'

const afterLossMs = 25

/** Asks a child of an engine; one that is lost is replaced and asked once more. Throws a problem when that is lost too. */
export async function askChild<Answer>(pool: ChildPool, task: object): Promise<Answer> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await pool.ask(task) as Answer
    } catch (error) {
      if (!(error instanceof ChildLostError)) throw error
      if (attempt === 2) fail('engine-stopped', 'The speech engine stopped twice on this text. Shorten or rewrite it.')
      // What ends one child, such as a lack of memory, may be ending the others too: that is no fault of the text.
      await sleep(afterLossMs)
    }
  }
}
