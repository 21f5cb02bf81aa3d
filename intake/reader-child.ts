import { readFile, stat } from 'node:fs/promises'
import { isMainThread } from 'node:worker_threads'
import { ProblemError, type Problem } from '#core/problem'
import { openFolder } from './archive'
import { servePages } from './pdf/page-threads'
import { readManuscript, type IntakeOptions } from './read-manuscript'

/** What the parent sends once. */
export interface ReaderTask {
  readonly path: string
  readonly name: string
  readonly options: Omit<IntakeOptions, 'onProgress' | 'threadProgram'>
}

/** What comes back: how far it is, now and then, and the result once. */
export type ReaderAnswer = { readonly manuscript: Buffer } | { readonly problem: Problem }
export type ReaderMessage = ReaderAnswer | { readonly progress: number }

const progressEveryMs = 200

if (isMainThread) {
  // Nobody waits for the answer any more.
  process.on('disconnect', () => process.exit(1))
  process.once('message', (task: ReaderTask) => {
    void answer(task).then(result => process.send!(result, () => process.exit(0)))
  })
} else {
  servePages()
}

async function answer({ path, name, options }: ReaderTask): Promise<ReaderAnswer> {
  try {
    let last = Date.now()
    const onProgress = (progress: number): void => {
      if (Date.now() - last < progressEveryMs) return
      last = Date.now()
      process.send!({ progress } satisfies ReaderMessage)
    }
    const source = (await stat(path)).isDirectory() ? { name, bytes: Buffer.alloc(0), archive: await openFolder(path, name) } : { name, bytes: await readFile(path) }
    // As JSON: who keeps it does not have to make anything of it first.
    return { manuscript: Buffer.from(JSON.stringify(await readManuscript(source, { ...options, onProgress, threadProgram: import.meta.url }))) }
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem }
    throw error
  }
}
