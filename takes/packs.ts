import { randomBytes } from 'node:crypto'
import { crc32 } from 'node:zlib'
import { ProblemError } from '#core/problem'
import { unlessDamaged } from './library'
import type { FileStorage, GrowingFile } from './storage'
import type { TakeRecord } from './take'

/** A pack is closed when it has grown to this. */
const maximumPackBytes = 64 * 1024 * 1024

/** A pack that nothing was added to for so long is left by its owner for a new one; */
const idleMs = 60_000
/** one that has not changed for so long is probably left. Whoever rewrites or removes one seals it first, so that nothing rests on that. */
export const settledMs = 120_000

/** Behind the name of a pack, the name of the mark that seals it. */
export const sealMark = '.sealed'

/** Audio that is not in a pack yet. */
export interface NewTake extends Omit<TakeRecord, 'sampleCount' | 'pack' | 'offset' | 'checksum'> {
  readonly samples: Int16Array
}

interface Writer {
  readonly name: string
  readonly file: GrowingFile
  size: number
  usedAt: number
}

/**
 * Append-only files of samples in one folder of a storage; where files can only be written whole, each group has a pack of its own. Each process writes
 * packs of its own; `append` returns only when the bytes are there to stay, so an index entry never points at samples that a crash could lose.
 */
export class Packs {
  readonly #storage: FileStorage
  readonly #folder: string
  #writer: Writer | null = null
  #appending: Promise<unknown> = Promise.resolve()

  constructor(storage: FileStorage, folder = 'takes') {
    this.#storage = storage
    this.#folder = folder
  }

  /** Writes a group of takes with one sync, one call after the other. Rejects with a problem when the disk is full. */
  append(takes: readonly NewTake[]): Promise<TakeRecord[]> {
    const appended = this.#appending.then(() => this.#append(takes))
    this.#appending = appended.catch(() => undefined)
    return appended
  }

  /** The samples of a take. Rejects with a problem when they are missing or damaged. */
  async read(take: TakeRecord): Promise<Int16Array> {
    const length = take.sampleCount * 2
    const bytes = await this.#storage.read(this.#path(take.pack), take.offset, length)
    if (bytes.length !== length || crc32(bytes) !== take.checksum) {
      throw new ProblemError({ code: 'take-damaged', message: 'The stored audio of a sentence was missing or damaged. It counts as not read now: read it again.', place: take.key })
    }
    return new Int16Array(bytes.buffer, bytes.byteOffset, take.sampleCount)
  }

  /** Tells the owner of a pack that it is about to be rewritten or removed. What is made known in it after this, its owner writes once more. */
  async seal(pack: string): Promise<void> {
    await this.#storage.put(this.#path(pack + sealMark), new Uint8Array(0))
  }

  /** Whether somebody has sealed a pack, or removed it already. */
  async isSealed(pack: string): Promise<boolean> {
    const isThere = async (name: string): Promise<boolean> => await this.#storage.find(this.#path(name)) !== null
    return await isThere(pack + sealMark) || !await isThere(pack)
  }

  /**
   * Copies takes out of a pack that is sealed into one of its own, in order; the caller makes them known and then
   * removes the old pack. Takes that are damaged are left out.
   */
  async rewrite(pack: string, takes: readonly TakeRecord[]): Promise<TakeRecord[]> {
    const name = newName()
    const records: TakeRecord[] = []
    const stretches: Buffer[] = []
    let offset = 0
    for (const take of takes.filter(each => each.pack === pack)) {
      const samples = await unlessDamaged(this.read(take))
      if (samples === null) continue
      const bytes = bytesOf(samples)
      records.push({ ...take, pack: name, offset })
      stretches.push(bytes)
      offset += bytes.length
    }
    if (records.length > 0) await this.#storage.put(this.#path(name), Buffer.concat(stretches))
    return records
  }

  async remove(pack: string): Promise<void> {
    await this.#storage.remove(this.#path(pack))
    await this.#storage.remove(this.#path(pack + sealMark))
  }

  async close(): Promise<void> {
    await this.#appending
    await this.#writer?.file.close()
    this.#writer = null
  }

  #path(name: string): string {
    return `${this.#folder}/${name}`
  }

  async #append(takes: readonly NewTake[]): Promise<TakeRecord[]> {
    const { grow } = this.#storage
    const writer = grow === null ? null : await this.#openWriter(grow)
    const name = writer?.name ?? newName()
    const records: TakeRecord[] = []
    const stretches: Buffer[] = []
    const from = writer?.size ?? 0
    let offset = from
    for (const { samples, ...take } of takes) {
      const bytes = bytesOf(samples)
      records.push({ ...take, sampleCount: samples.length, pack: name, offset, checksum: crc32(bytes) })
      stretches.push(bytes)
      offset += bytes.length
    }
    if (writer === null) {
      await this.#storage.put(this.#path(name), Buffer.concat(stretches))
      return records
    }
    // When this fails the writer stays where it was: the next group overwrites what there is of this one.
    await writer.file.write(Buffer.concat(stretches), from)
    writer.size = offset
    writer.usedAt = performance.now()
    if (writer.size >= maximumPackBytes) {
      await writer.file.close()
      this.#writer = null
    }
    return records
  }

  async #openWriter(grow: NonNullable<FileStorage['grow']>): Promise<Writer> {
    if (this.#writer !== null && (performance.now() - this.#writer.usedAt > idleMs || await this.isSealed(this.#writer.name))) {
      await this.#writer.file.close()
      this.#writer = null
    }
    if (this.#writer === null) {
      const name = newName()
      this.#writer = { name, file: await grow(this.#path(name)), size: 0, usedAt: performance.now() }
    }
    return this.#writer
  }
}

function bytesOf(samples: Int16Array): Buffer {
  return Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
}

function newName(): string {
  return `${randomBytes(8).toString('hex')}.pack`
}
