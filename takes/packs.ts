import { randomBytes } from 'node:crypto'
import { mkdir, open, rename, rm, stat, writeFile, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import { crc32 } from 'node:zlib'
import { asProblem, ProblemError } from '#core/problem'
import type { TakeRecord } from './take'

/** A pack is closed when it has grown to this. */
const maximumPackBytes = 64 * 1024 * 1024

/** A pack that nothing was added to for so long is left by its owner for a new one; */
const idleMs = 60_000
/** one that has not changed for so long is probably left. whoever rewrites or removes one seals it first, so that nothing rests on that. */
export const settledMs = 120_000

/** Behind the name of a pack, the name of the mark that seals it. */
export const sealMark = '.sealed'

/** Audio that is not in a pack yet. */
export interface NewTake extends Omit<TakeRecord, 'sampleCount' | 'pack' | 'offset' | 'checksum'> {
  readonly samples: Int16Array
}

/** Packs that are open for reading at once. */
const mostReaders = 32

interface Reader {
  readonly file: Promise<FileHandle>
  /** Reads that are under way. */
  uses: number
}

interface Writer {
  readonly name: string
  readonly file: FileHandle
  size: number
  usedAt: number
}

/**
 * Append-only files of samples in one folder. Each process writes packs of its own; `append` returns only
 * when the bytes are on disk, so an index entry never points at samples that a crash could lose.
 */
export class Packs {
  readonly #folder: string
  /** The one used last comes last. */
  readonly #readers = new Map<string, Reader>()
  #writer: Writer | null = null
  #appending: Promise<unknown> = Promise.resolve()

  constructor(folder: string) {
    this.#folder = folder
  }

  /** Writes a group of takes with one sync, one call after the other. Rejects with a problem when the disk is full. */
  append(takes: readonly NewTake[]): Promise<TakeRecord[]> {
    const appended = this.#appending.then(() => this.#append(takes)).catch((error: unknown) => { throw asProblem(error) })
    this.#appending = appended.catch(() => undefined)
    return appended
  }

  /** The samples of a take. Rejects with a problem when they are missing or damaged. */
  async read(take: TakeRecord): Promise<Int16Array> {
    const bytes = Buffer.alloc(take.sampleCount * 2)
    let bytesRead = 0
    try {
      bytesRead = await this.#using(take.pack, async file => (await file.read(bytes, 0, bytes.length, take.offset)).bytesRead)
    } catch {
      // A pack that cannot be opened or read is reported like one that is cut short.
    }
    if (bytesRead !== bytes.length || crc32(bytes) !== take.checksum) {
      throw new ProblemError({ code: 'take-damaged', message: 'The stored audio of a sentence was missing or damaged. It counts as not read now: read it again.', place: take.key })
    }
    return new Int16Array(bytes.buffer, bytes.byteOffset, take.sampleCount)
  }

  /** Tells the owner of a pack that it is about to be rewritten or removed. What is made known in it after this, its owner writes once more. */
  async seal(pack: string): Promise<void> {
    await writeFile(join(this.#folder, pack + sealMark), '')
  }

  /** Whether somebody has sealed a pack, or removed it already. */
  async isSealed(pack: string): Promise<boolean> {
    const isThere = (name: string): Promise<boolean> => stat(join(this.#folder, name)).then(() => true, () => false)
    return await isThere(pack + sealMark) || !await isThere(pack)
  }

  /**
   * Copies takes out of a pack that is sealed into one of its own, in order; the caller makes them known and then
   * removes the old pack. Takes that are damaged are left out.
   */
  async rewrite(pack: string, takes: readonly TakeRecord[]): Promise<TakeRecord[]> {
    const name = newName()
    const beside = join(this.#folder, `${name}.part`)
    const file = await open(beside, 'wx')
    const records: TakeRecord[] = []
    let offset = 0
    try {
      for (const take of takes.filter(each => each.pack === pack)) {
        const samples = await this.read(take).catch(() => null)
        if (samples === null) continue
        const bytes = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
        await writeAll(file, bytes, offset)
        records.push({ ...take, pack: name, offset })
        offset += bytes.length
      }
      await commit(file, offset)
    } catch (error) {
      await rm(beside, { force: true })
      throw asProblem(error)
    } finally {
      await file.close()
    }
    await rename(beside, join(this.#folder, name))
    return records
  }

  async remove(pack: string): Promise<void> {
    await this.#closeReader(pack)
    await rm(join(this.#folder, pack), { force: true })
    await rm(join(this.#folder, pack + sealMark), { force: true })
  }

  async close(): Promise<void> {
    await this.#appending
    await this.#writer?.file.close()
    this.#writer = null
    for (const pack of [...this.#readers.keys()]) await this.#closeReader(pack)
  }

  async #append(takes: readonly NewTake[]): Promise<TakeRecord[]> {
    const writer = await this.#openWriter()
    const records: TakeRecord[] = []
    const buffers: Buffer[] = []
    let offset = writer.size
    for (const { samples, ...take } of takes) {
      const bytes = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
      records.push({ ...take, sampleCount: samples.length, pack: writer.name, offset, checksum: crc32(bytes) })
      buffers.push(bytes)
      offset += bytes.length
    }
    // When this fails the writer stays where it was: the next group overwrites what there is of this one.
    await writeAll(writer.file, Buffer.concat(buffers), writer.size)
    await commit(writer.file, offset)
    writer.size = offset
    writer.usedAt = performance.now()
    if (writer.size >= maximumPackBytes) {
      await writer.file.close()
      this.#writer = null
    }
    return records
  }

  async #openWriter(): Promise<Writer> {
    if (this.#writer !== null && (performance.now() - this.#writer.usedAt > idleMs || await this.isSealed(this.#writer.name))) {
      await this.#writer.file.close()
      this.#writer = null
    }
    if (this.#writer === null) {
      await mkdir(this.#folder, { recursive: true })
      const name = newName()
      this.#writer = { name, file: await open(join(this.#folder, name), 'wx'), size: 0, usedAt: performance.now() }
    }
    return this.#writer
  }

  /** Reads in a pack. Of those that are open and not in use the one used longest ago is closed when there are many. */
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
    const reader = { file: open(join(this.#folder, name), 'r'), uses: 0 }
    reader.file.catch(() => { if (this.#readers.get(name) === reader) this.#readers.delete(name) })
    return reader
  }

  async #closeReader(name: string): Promise<void> {
    const reader = this.#readers.get(name)
    this.#readers.delete(name)
    await (await reader?.file.catch(() => null))?.close()
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

/** Puts a file on disk and makes sure that it is as long as it must be. */
async function commit(file: FileHandle, bytes: number): Promise<void> {
  await file.datasync()
  if ((await file.stat()).size < bytes) throw Object.assign(new Error('The file is shorter than what was written.'), { code: 'ENOSPC' })
}

function newName(): string {
  return `${randomBytes(8).toString('hex')}.pack`
}
