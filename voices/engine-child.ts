import { ProblemError } from '#core/problem'
import { childIsUp } from './child-pool'

/** Makes this process the child of an engine: it answers tasks one by one, with a problem where there is one. */
export function answerTasks<Task>(answer: (task: Task) => object): void {
  process.on('message', (task: Task) => {
    try {
      process.send!(answer(task))
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      process.send!({ problem: error.problem })
    }
  })
  process.on('disconnect', () => process.exit(0))
  process.send!(childIsUp)
}
