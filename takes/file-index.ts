import { appendFile, mkdir, readFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { asProblem } from '#core/problem'
import type { TakeIndex, TakeRecord } from './take'

/** The index of a cache folder: one JSON record a line, appended. For one process at a time. */
export class FileTakeIndex implements TakeIndex {
  readonly #path: string
  readonly #takes: Map<string, TakeRecord>
  /** The last line may have been cut short, as by a full disk: the next one begins anew. */
  #isCut = false

  private constructor(path: string, takes: Map<string, TakeRecord>) {
    this.#path = path
    this.#takes = takes
  }

  /** Opens the index, or begins one. A last line that a crash cut short is passed over. */
  static async open(path: string): Promise<FileTakeIndex> {
    await mkdir(dirname(path), { recursive: true })
    const takes = new Map<string, TakeRecord>()
    const lines = (await readFile(path, 'utf8').catch(ifMissing)).split('\n')
    for (const line of lines) {
      const take = parseLine(line)
      if (take !== null) takes.set(take.key, take)
    }
    if (lines.at(-1) !== '') await appendFile(path, '\n')
    return new FileTakeIndex(path, takes)
  }

  find(keys: readonly string[]): Promise<Map<string, TakeRecord>> {
    const found = new Map<string, TakeRecord>()
    for (const key of keys) {
      const take = this.#takes.get(key)
      if (take !== undefined) found.set(key, take)
    }
    return Promise.resolve(found)
  }

  claim(keys: readonly string[]): Promise<string[]> {
    return Promise.resolve([...keys])
  }

  release(): Promise<void> {
    return Promise.resolve()
  }

  forget(takes: readonly TakeRecord[]): Promise<void> {
    for (const take of takes) if (this.#takes.get(take.key) === take) this.#takes.delete(take.key)
    return Promise.resolve()
  }

  /** A later line for a key replaces the earlier one, which is how a damaged take is made good. */
  async add(takes: readonly TakeRecord[]): Promise<void> {
    const begin = this.#isCut ? '\n' : ''
    this.#isCut = true
    await appendFile(this.#path, begin + takes.map(take => `${JSON.stringify(take)}\n`).join('')).catch((error: unknown) => { throw asProblem(error) })
    this.#isCut = false
    for (const take of takes) this.#takes.set(take.key, take)
  }

  /** Nobody else uses the folder. */
  replace(takes: readonly TakeRecord[]): Promise<void> {
    return this.add(takes)
  }
}

function ifMissing(error: NodeJS.ErrnoException): string {
  if (error.code === 'ENOENT') return ''
  throw error
}

function parseLine(line: string): TakeRecord | null {
  try {
    const value = JSON.parse(line) as TakeRecord
    return typeof value.key === 'string' && typeof value.pack === 'string' ? value : null
  } catch {
    return null
  }
}
