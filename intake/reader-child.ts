import { readFile } from 'node:fs/promises'
import { ProblemError, type Problem } from '#core/problem'
import type { Manuscript } from '#core/manuscript/manuscript'
import { readManuscript, type IntakeOptions } from './read-manuscript'

/** What the parent sends once. */
export interface ReaderTask {
  readonly path: string
  readonly name: string
  readonly options: IntakeOptions
}

/** What comes back, once. */
export type ReaderAnswer = { readonly manuscript: Manuscript } | { readonly problem: Problem }

process.once('message', (task: ReaderTask) => {
  void answer(task).then(result => process.send!(result, () => process.exit(0)))
})

async function answer({ path, name, options }: ReaderTask): Promise<ReaderAnswer> {
  try {
    return { manuscript: await readManuscript({ name, bytes: await readFile(path) }, options) }
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem }
    throw error
  }
}
