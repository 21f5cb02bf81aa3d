import { appendFile, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import type { FinishedFile } from '#press/deliver'

interface Finished {
  readonly fingerprint: string
  readonly path: string
  readonly sha256: string
  /** None in a line of an earlier version. */
  readonly levels?: FileLevels
  readonly findings?: readonly Finding[]
}

/** Where finished files lie, by fingerprint: what has not changed is not encoded again. */
export class FinishedFiles {
  readonly #path: string
  readonly #files: Map<string, Finished>

  private constructor(path: string, files: Map<string, Finished>) {
    this.#path = path
    this.#files = files
  }

  static async open(cacheFolder: string): Promise<FinishedFiles> {
    const path = join(cacheFolder, 'files.jsonl')
    const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return ''
      throw error
    })
    const files = new Map<string, Finished>()
    for (const line of text.split('\n')) {
      try {
        const file = JSON.parse(line) as Finished
        files.set(file.fingerprint, file)
      } catch {
        // A line that a crash cut short names no file.
      }
    }
    return new FinishedFiles(path, files)
  }

  find(fingerprint: string): Promise<FinishedFile | null> {
    const file = this.#files.get(fingerprint)
    if (file?.levels === undefined || file.findings === undefined) return Promise.resolve(null)
    return Promise.resolve({ name: file.path, sha256: file.sha256, levels: file.levels, findings: file.findings })
  }

  async add(fingerprint: string, path: string, { sha256, levels, findings }: Omit<FinishedFile, 'name'>): Promise<void> {
    const known = this.#files.get(fingerprint)
    if (known?.path === path && known.sha256 === sha256 && known.findings !== undefined) return
    const file = { fingerprint, path, sha256, levels, findings }
    this.#files.set(fingerprint, file)
    await appendFile(this.#path, `${JSON.stringify(file)}\n`)
  }
}
