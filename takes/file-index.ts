import { appendFile, mkdir, readFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { asProblem } from '#core/problem'
import { takeId } from '#core/takes/take'
import type { TakeIndex, TakeRecord } from './take'

const madeByEngine = { variant: 0, origin: 'engine', textHash: null } as const

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
      if (take !== null) takes.set(takeId(take), take)
    }
    if (lines.at(-1) !== '') await appendFile(path, '\n')
    return new FileTakeIndex(path, takes)
  }

  find(ids: readonly string[]): Promise<Map<string, TakeRecord>> {
    const found = new Map<string, TakeRecord>()
    for (const id of ids) {
      const take = this.#takes.get(id)
      if (take !== undefined) found.set(id, take)
    }
    return Promise.resolve(found)
  }

  claim(keys: readonly string[]): Promise<string[]> {
    return Promise.resolve([...keys])
  }

  readonly leaseMs = null

  renew(): Promise<void> {
    return Promise.resolve()
  }

  release(): Promise<void> {
    return Promise.resolve()
  }

  forget(takes: readonly TakeRecord[]): Promise<void> {
    for (const take of takes) if (this.#takes.get(takeId(take)) === take) this.#takes.delete(takeId(take))
    return Promise.resolve()
  }

  /** A later line for a key replaces the earlier one, which is how a damaged take is made good. */
  async add(takes: readonly TakeRecord[]): Promise<void> {
    const begin = this.#isCut ? '\n' : ''
    this.#isCut = true
    await appendFile(this.#path, begin + takes.map(take => `${JSON.stringify(take)}\n`).join('')).catch((error: unknown) => { throw asProblem(error) })
    this.#isCut = false
    for (const take of takes) this.#takes.set(takeId(take), take)
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
    // Earlier releases knew no variants.
    return typeof value.key === 'string' && typeof value.pack === 'string' ? { ...madeByEngine, ...value } : null
  } catch {
    return null
  }
}
