import { fork } from 'node:child_process'
import { once } from 'node:events'
import { stat } from 'node:fs/promises'
import { fail, ProblemError } from '#core/problem'
import type { Manuscript } from '#core/manuscript/manuscript'
import { maximumFileBytes } from './reader'
import type { IntakeOptions } from './read-manuscript'
import type { ReaderAnswer, ReaderMessage, ReaderTask } from './reader-child'

/** Limits of one intake; the environment can set others (`QUILL_INTAKE_SECONDS`, `QUILL_INTAKE_MEMORY_MB`). */
const timeLimitMs = setting('QUILL_INTAKE_SECONDS', 300) * 1000
const heapLimitMb = setting('QUILL_INTAKE_MEMORY_MB', 1024)

function setting(name: string, usual: number): number {
  const value = Number(process.env[name] ?? usual)
  return Number.isFinite(value) && value > 0 ? value : fail('setting-wrong', `${name} must be a number above 0.`)
}

export interface Watch {
  /** Told how far the reading is, 0…1. */
  readonly onProgress?: (share: number) => void
  /** Ends it: the child is killed. */
  readonly signal?: AbortSignal
}

/**
 * Reads a file in a guarded child process: limits of time, memory and bytes; the child's death is a
 * problem like any other. `childPath` is the bundled `reader-child`.
 */
export async function takeIn(...given: Parameters<typeof takeInAsJson>): Promise<Manuscript> {
  return JSON.parse(await takeInAsJson(...given)) as Manuscript
}

/** The same as JSON, to be kept as it is. */
export async function takeInAsJson(childPath: string, path: string, name: string, options: Omit<IntakeOptions, 'onProgress'>, watch: Watch = {}): Promise<string> {
  const file = await stat(path)
  const { size } = file
  if (file.isFile() && size > maximumFileBytes) {
    fail('file-too-large', `${name} has ${Math.ceil(size / 1024 / 1024)} MB; at most ${maximumFileBytes / 1024 / 1024} MB are taken in. Divide it.`)
  }
  const task = { path, name, options }
  const answer = await askChild(childPath, task, watch) ?? await askChild(childPath, task, watch)
  if (answer === null) fail('intake-crashed', `${name} could not be read: its reader was ended twice from outside. Check the memory of the machine and bring it again.`)
  if ('problem' in answer) throw new ProblemError(answer.problem)
  const { buffer, byteOffset, byteLength } = answer.manuscript
  return Buffer.from(buffer, byteOffset, byteLength).toString('utf8')
}

/** The problem of a document whose reading was stopped. */
export function intakeStopped(name: string): ProblemError {
  return new ProblemError({ code: 'intake-stopped', message: `The reading of ${name} was stopped.` })
}

/** Null when the child was killed by something else than its limits. */
function askChild(childPath: string, task: ReaderTask, { onProgress, signal }: Watch): Promise<ReaderAnswer | null> {
  return new Promise((resolve, reject) => {
    const child = fork(childPath, { execArgv: [`--max-old-space-size=${heapLimitMb}`], serialization: 'advanced', stdio: ['ignore', 'ignore', 'ignore', 'ipc'] })
    let [answered, timedOut] = [false, false]
    // An answer that waits to be heard, because this process was busy, comes before the limit.
    const timer = setTimeout(() => setImmediate(() => {
      if (answered) return
      timedOut = true
      child.kill('SIGKILL')
    }), timeLimitMs)
    const stop = (): void => { child.kill('SIGKILL') }
    if (signal?.aborted === true) stop()
    signal?.addEventListener('abort', stop, { once: true })
    child.on('message', (message: ReaderMessage) => {
      if ('progress' in message) return onProgress?.(message.progress)
      answered = true
      resolve(message)
    })
    child.once('error', reject)
    // Its last message can come after its end: only when the channel is closed too has it said nothing.
    const ended = Promise.all([once(child, 'exit') as Promise<[code: number | null, killedBy: NodeJS.Signals | null]>, once(child, 'disconnect')])
    void ended.then(([[, killedBy]]) => {
      clearTimeout(timer)
      signal?.removeEventListener('abort', stop)
      if (signal?.aborted === true) return void reject(intakeStopped(task.name))
      if (killedBy === 'SIGKILL' && !timedOut) return void resolve(null)
      reject(new ProblemError(timedOut
        ? { code: 'intake-timeout', message: `${task.name} could not be read within ${timeLimitMs / 1000} seconds. Divide it, or save it in another format.` }
        : { code: 'intake-crashed', message: `${task.name} could not be read: it needs too much memory or is damaged. Save it again, or in another format.` }))
    }, reject)
    child.send(task)
  })
}
