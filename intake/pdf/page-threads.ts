import { availableParallelism } from 'node:os'
import { parentPort, Worker, workerData } from 'node:worker_threads'
import { ProblemError, type Problem } from '#core/problem'
import { PageGuard } from './limits'
import { openPdf, readPage, type PageText } from './pages'

/** What a thread is started with. */
export interface PageTask {
  readonly bytes: SharedArrayBuffer
  readonly name: string
  readonly isMarked: boolean
  /** Threads that share the memory that may be taken. */
  readonly threads: number
}

type Answer = { readonly from: number, readonly pages: readonly PageText[] } | { readonly problem: Problem } | { readonly broken: true }

/** Threads are worth their start from so many pages on. */
export const leastPagesForThreads = 80
const mostThreads = 4
const pagesAtOnce = 24
const heapMb = 512

/**
 * Reads all pages in threads that run `program`, and gives each to `onPage` in no particular order. Throws the first problem that a page
 * has, and an `Error` for a page that is damaged.
 */
export async function readPagesInThreads(program: string, file: { readonly bytes: Uint8Array, readonly name: string }, total: number, isMarked: boolean, onPage: (index: number, page: PageText) => void): Promise<void> {
  const bytes = new SharedArrayBuffer(file.bytes.length)
  new Uint8Array(bytes).set(file.bytes)
  const count = Math.min(availableParallelism(), mostThreads)
  const task: PageTask = { bytes, name: file.name, isMarked, threads: count }
  const threads = Array.from({ length: count }, () => new Worker(new URL(program), { workerData: task, resourceLimits: { maxOldGenerationSizeMb: heapMb } }))
  let next = 0
  try {
    await Promise.all(threads.map(thread => new Promise<void>((resolve, reject) => {
      const ask = (): void => {
        if (next >= total) return resolve()
        const from = next
        next = Math.min(total, from + pagesAtOnce)
        thread.postMessage([from, next])
      }
      thread.on('error', reject)
      thread.on('message', (answer: Answer) => {
        if ('problem' in answer) return reject(new ProblemError(answer.problem))
        if ('broken' in answer) return reject(new Error('A page is damaged.'))
        try {
          answer.pages.forEach((page, index) => { onPage(answer.from + index, page) })
          ask()
        } catch (error) {
          reject(error instanceof Error ? error : new Error(String(error)))
        }
      })
      ask()
    })))
  } finally {
    await Promise.all(threads.map(thread => thread.terminate()))
  }
}

/** The program of such a thread: answers with the pages that it is asked for. */
export function servePages(): void {
  const { bytes, name, isMarked, threads } = workerData as PageTask
  const port = parentPort!
  const send = (answer: Answer): void => { port.postMessage(answer) }
  const opened = openPdf(new Uint8Array(bytes), name)
  const guard = new PageGuard(name, bytes.byteLength, threads)
  port.on('message', ([from, to]: [number, number]) => {
    void (async () => {
      const pdf = await opened
      const pages: PageText[] = []
      for (let index = from; index < to; index += 1) pages.push(await readPage(pdf, index, isMarked, guard))
      send({ from, pages })
    })().catch((error: unknown) => { send(error instanceof ProblemError ? { problem: error.problem } : { broken: true }) })
  })
  // Whoever asks for a page is told.
  opened.catch(() => undefined)
}
