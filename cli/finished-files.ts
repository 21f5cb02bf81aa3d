import { appendFile, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { FileLevels } from '#core/mastering/file-levels'
import type { FinishedFile } from '#press/deliver'

interface Finished {
  readonly fingerprint: string
  readonly path: string
  readonly sha256: string
  /** None in a line of an earlier version. */
  readonly levels?: FileLevels
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
    return Promise.resolve(file?.levels === undefined ? null : { name: file.path, sha256: file.sha256, levels: file.levels })
  }

  async add(fingerprint: string, path: string, { sha256, levels }: Pick<FinishedFile, 'sha256' | 'levels'>): Promise<void> {
    const known = this.#files.get(fingerprint)
    if (known?.path === path && known.sha256 === sha256 && known.levels !== undefined) return
    const file = { fingerprint, path, sha256, levels }
    this.#files.set(fingerprint, file)
    await appendFile(this.#path, `${JSON.stringify(file)}\n`)
  }
}
