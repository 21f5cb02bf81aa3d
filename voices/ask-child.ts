import { setTimeout as sleep } from 'node:timers/promises'
import { fail, ProblemError, type Problem } from '#core/problem'
import { ChildLostError, type ChildPool } from './child-pool'

const afterLossMs = 25

/** Asks a child of an engine; one that is lost is replaced and asked once more. Throws a problem when that is lost too, and the one that the child answers. */
export async function askChild<Answer extends object>(pool: ChildPool, task: object): Promise<Answer> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      const answer = await pool.ask(task) as Answer | { readonly problem: Problem }
      if ('problem' in answer) throw new ProblemError(answer.problem)
      return answer
    } catch (error) {
      if (!(error instanceof ChildLostError)) throw error
      if (attempt === 2) fail('engine-stopped', 'The speech engine stopped twice on this text. Shorten or rewrite it.')
      // What ends one child, such as a lack of memory, may be ending the others too: that is no fault of the text.
      await sleep(afterLossMs)
    }
  }
}

/** For an answer of another kind than what was asked for. */
export function unexpectedAnswer(): Error {
  return new Error('The engine child gave the wrong kind of answer.')
}
