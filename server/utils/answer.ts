import { setResponseHeaders, type H3Event } from 'h3'
import type { TaskInput, TaskName, TaskResult } from '#services/tasks'
import type { Work } from '#services/work'

/** Answers a request with the result of a task on so many bytes of text. */
export async function answerOf<N extends TaskName>(event: H3Event, work: Work, name: N, input: TaskInput<N>, bytes: number): Promise<TaskResult<N> | Buffer> {
  const result = await work.answer(name, input, bytes)
  if (typeof result !== 'object' || result === null || !('json' in result)) return result as TaskResult<N>
  setResponseHeaders(event, { 'content-type': 'application/json' })
  return result.json as Buffer
}
