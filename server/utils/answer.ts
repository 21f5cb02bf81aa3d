import { Readable } from 'node:stream'
import { setResponseHeaders, type H3Event } from 'h3'
import type { TaskInput, TaskName } from '#services/tasks'
import type { Work } from '#services/work'
import { sendBytes } from './send-bytes'

/** Answers a request with the result of a task on so many bytes of text. */
export async function answerOf<N extends TaskName>(event: H3Event, work: Work, name: N, input: TaskInput<N>, bytes: number): Promise<Buffer | undefined> {
  const result = await work.answer(name, input, bytes)
  if (Buffer.isBuffer(result)) return result
  const pieces = result.json
  setResponseHeaders(event, { 'content-type': 'application/json', 'content-length': pieces.reduce((sum, piece) => sum + piece.length, 0) })
  if (pieces.length === 1) return pieces[0]
  await sendBytes(event, Readable.from(pieces, { objectMode: false, highWaterMark: 1 }))
  return undefined
}
