import { fork } from 'node:child_process'
import { stat } from 'node:fs/promises'
import { fail, ProblemError } from '#core/problem'
import type { Manuscript } from '#core/manuscript/manuscript'
import { maximumFileBytes } from './reader'
import type { IntakeOptions } from './read-manuscript'
import type { ReaderAnswer, ReaderTask } from './reader-child'

const timeLimitMs = 120_000
const heapLimitMb = 1024

/**
 * Reads a file in a guarded child process: limits of time, memory and bytes; the child's death is a
 * problem like any other. `childPath` is the bundled `reader-child`.
 */
export async function takeIn(childPath: string, path: string, name: string, options: IntakeOptions): Promise<Manuscript> {
  const { size } = await stat(path)
  if (size > maximumFileBytes) {
    fail('file-too-large', `${name} has ${Math.ceil(size / 1024 / 1024)} MB; at most ${maximumFileBytes / 1024 / 1024} MB are taken in. Divide it.`)
  }
  const task = { path, name, options }
  const answer = await askChild(childPath, task) ?? await askChild(childPath, task)
  if (answer === null) fail('intake-crashed', `${name} could not be read: its reader was ended twice from outside. Check the memory of the machine and bring it again.`)
  if ('problem' in answer) throw new ProblemError(answer.problem)
  return answer.manuscript
}

/** Null when the child was killed by something else than its limits. */
function askChild(childPath: string, task: ReaderTask): Promise<ReaderAnswer | null> {
  return new Promise((resolve, reject) => {
    const child = fork(childPath, { execArgv: [`--max-old-space-size=${heapLimitMb}`], serialization: 'advanced', stdio: ['ignore', 'ignore', 'ignore', 'ipc'] })
    let timedOut = false
    const timer = setTimeout(() => {
      timedOut = true
      child.kill('SIGKILL')
    }, timeLimitMs)
    child.once('message', (answer: ReaderAnswer) => resolve(answer))
    child.once('error', reject)
    child.once('exit', (_, signal) => {
      clearTimeout(timer)
      if (signal === 'SIGKILL' && !timedOut) return resolve(null)
      reject(new ProblemError(timedOut
        ? { code: 'intake-timeout', message: `${task.name} could not be read within ${timeLimitMs / 1000} seconds. Divide it, or save it in another format.` }
        : { code: 'intake-crashed', message: `${task.name} could not be read: it needs too much memory or is damaged. Save it again, or in another format.` }))
    })
    child.send(task)
  })
}
