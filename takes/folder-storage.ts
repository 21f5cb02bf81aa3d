import { randomUUID } from 'node:crypto'
import { access, constants, copyFile, link, mkdir, open, readdir, rename, rm, rmdir, stat, statfs, writeFile, type FileHandle } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import type { Readable } from 'node:stream'
import { asProblem } from '#core/problem'
import { sha256OfFile } from './sha256'
import { draftMark, type Draft, type FileStorage, type GrowingFile, type StoredFile } from './storage'

/** Files that are open for reading stretches at once. */
const mostReaders = 32

/** What a disk says where there is nothing, or nothing that can be read. */
const nothingThere: ReadonlySet<unknown> = new Set(['ENOENT', 'ENOTDIR', 'EISDIR', 'EIO'])

interface Reader {
  readonly file: Promise<FileHandle>
  /** Reads that are under way. */
  uses: number
}

/** Files in a folder of this machine, or in one that several machines share. An absolute name is that path, wherever the folder is. */
export class FolderStorage implements FileStorage {
  readonly drafts: FileStorage = this
  readonly #folder: string
  /** The one used last comes last. */
  readonly #readers = new Map<string, Reader>()

  constructor(folder: string) {
    this.#folder = folder
  }

  get place(): string {
    return this.#folder
  }

  async room(): Promise<number> {
    return this.#saying(async () => {
      await mkdir(this.#folder, { recursive: true })
      await access(this.#folder, constants.W_OK)
      const { bavail, bsize } = await statfs(this.#folder)
      return bavail * bsize
    })
  }

  /** The same can be put there by several processes at once: each has a draft of its own. */
  async put(name: string, bytes: Uint8Array): Promise<void> {
    const draft = await this.draft(`${name}.${randomUUID()}`)
    try {
      await this.#saying(() => writeFile(draft.path, bytes))
      await draft.commit(name)
    } finally {
      await draft.discard()
    }
  }

  /** A draft lies beside its place. */
  async draft(name: string): Promise<Draft> {
    const path = await this.#ready(name + draftMark)
    const settle = (): Promise<void> => this.#saying(async () => {
      const file = await open(path, 'r+')
      await file.sync().finally(() => file.close())
    })
    return {
      path, settle,
      commit: async (as = name) => {
        const place = await this.#ready(as)
        await settle()
        await this.#saying(() => rename(path, place))
      },
      discard: () => rm(path, { force: true }),
    }
  }

  readonly grow = async (name: string): Promise<GrowingFile> => {
    const path = await this.#ready(name)
    const file = await this.#saying(() => open(path, 'wx'))
    return {
      write: (bytes, at) => this.#saying(async () => {
        await writeAll(file, bytes, at)
        await file.datasync()
        if ((await file.stat()).size < at + bytes.length) throw Object.assign(new Error('The file is shorter than what was written.'), { code: 'ENOSPC' })
      }),
      close: () => file.close(),
    }
  }

  async copy(from: string, to: string): Promise<void> {
    const [source, place] = [this.#path(from), await this.#ready(to)]
    await this.#saying(async () => {
      await rm(place, { force: true })
      await link(source, place).catch(() => copyFile(source, place))
    })
  }

  async find(name: string): Promise<StoredFile | null> {
    const file = await stat(this.#path(name)).catch(ifNothing(null))
    return file?.isFile() === true ? { name, bytes: file.size, changedMs: file.mtimeMs, version: `${file.size} ${file.mtimeMs} ${file.ino}`, identity: String(file.ino), names: file.nlink } : null
  }

  async list(folder: string): Promise<StoredFile[]> {
    const names = await readdir(this.#path(folder), { recursive: true }).catch(ifNothing([]))
    const found: StoredFile[] = []
    for (const name of names) {
      const file = await this.find(join(folder, name))
      if (file !== null) found.push(file)
    }
    return found
  }

  async read(name: string, from: number, length: number, into: Buffer = Buffer.allocUnsafeSlow(length)): Promise<Buffer> {
    const { bytesRead } = await this.#using(name, file => file.read(into, 0, length, from)).catch(ifNothing({ bytesRead: 0 }))
    return into.subarray(0, bytesRead)
  }

  async stream(name: string): Promise<Readable | null> {
    return (await open(this.#path(name)).catch(ifNothing(null)))?.createReadStream() ?? null
  }

  sha256(name: string): Promise<string | null> {
    return sha256OfFile(this.#path(name)).catch(ifNothing(null))
  }

  withLocal<T>(name: string, use: (path: string) => Promise<T>): Promise<T> {
    return use(this.#path(name))
  }

  /** A folder that becomes empty goes too, unless it is at the top. */
  async remove(name: string): Promise<void> {
    await this.#closeReader(name)
    await rm(this.#path(name), { force: true })
    if (name.split('/').length > 2) await rmdir(dirname(this.#path(name))).catch(() => undefined)
  }

  async close(): Promise<void> {
    for (const name of [...this.#readers.keys()]) await this.#closeReader(name)
  }

  #path(name: string): string {
    return resolve(this.#folder, name)
  }

  /** The path of a file that is about to be written: its folder is there. */
  async #ready(name: string): Promise<string> {
    const path = this.#path(name)
    await this.#saying(() => mkdir(dirname(path), { recursive: true }))
    return path
  }

  /** What the system says of room and permission becomes a problem. */
  #saying<T>(act: () => Promise<T>): Promise<T> {
    return act().catch((error: unknown) => { throw asProblem(error) })
  }

  /** Reads in a file. Of those that are open and not in use the one used longest ago is closed when there are many. */
  async #using<T>(name: string, read: (file: FileHandle) => Promise<T>): Promise<T> {
    const reader = this.#readers.get(name) ?? this.#openReader(name)
    this.#readers.delete(name)
    this.#readers.set(name, reader)
    reader.uses += 1
    try {
      return await read(await reader.file)
    } finally {
      reader.uses -= 1
      const idle = [...this.#readers].find(([, each]) => each.uses === 0)
      if (this.#readers.size > mostReaders && idle !== undefined) await this.#closeReader(idle[0])
    }
  }

  #openReader(name: string): Reader {
    const reader = { file: open(this.#path(name), 'r'), uses: 0 }
    reader.file.catch(() => { if (this.#readers.get(name) === reader) this.#readers.delete(name) })
    return reader
  }

  async #closeReader(name: string): Promise<void> {
    const reader = this.#readers.get(name)
    this.#readers.delete(name)
    await (await reader?.file.catch(() => null))?.close()
  }
}

/** A handler of errors that gives `otherwise` where there is nothing. */
function ifNothing<T>(otherwise: T): (error: unknown) => T {
  return error => {
    if (nothingThere.has((error as NodeJS.ErrnoException).code)) return otherwise
    throw asProblem(error)
  }
}

/** Writes bytes to their end. A disk that fills up takes a part of them first, and says so only at the next attempt. */
async function writeAll(file: FileHandle, bytes: Uint8Array, at: number): Promise<void> {
  for (let done = 0; done < bytes.length;) {
    const { bytesWritten } = await file.write(bytes, done, bytes.length - done, at + done)
    if (bytesWritten === 0) throw Object.assign(new Error('The disk took nothing.'), { code: 'ENOSPC' })
    done += bytesWritten
  }
}
