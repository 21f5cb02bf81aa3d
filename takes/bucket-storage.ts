import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { GetObjectCommand, HeadBucketCommand, ListObjectsV2Command, S3Client } from '@aws-sdk/client-s3'
import { S3Driver } from 'flydrive/drivers/s3'
import { fail } from '#core/problem'
import { FolderStorage } from './folder-storage'
import type { Draft, FileStorage, StoredFile } from './storage'

/** A bucket of an S3-compatible service. */
export interface Bucket {
  readonly bucket: string
  /** What all names begin with; empty, or with “/” at its end. */
  readonly prefix: string
  /** URL of the service; null for the one that the region leads to. */
  readonly endpoint: string | null
  readonly region: string
  /** Names that one answer lists at most; without, as many as the service gives. */
  readonly namesAtOnce?: number
}

/** So often a question is put before the service counts as not answering. */
const attempts = 4
const mostConnections = 32

/** What a service answers where there is no such file, or no such stretch of it. */
const nothingThere: ReadonlySet<number | undefined> = new Set([404, 416])

/** Files in a bucket. Drafts, and files that a program needs as such, lie in a folder of this machine meanwhile. Who may use the bucket is known as every client of such a service knows it: by environment or profile. */
export class BucketStorage implements FileStorage {
  readonly grow = null
  readonly drafts: FolderStorage
  readonly place: string
  readonly #bucket: Bucket
  readonly #client: S3Client
  readonly #drive: S3Driver

  constructor(bucket: Bucket, draftsFolder: string) {
    this.#bucket = bucket
    this.drafts = new FolderStorage(draftsFolder)
    this.place = `${bucket.endpoint ?? 's3:/'}/${bucket.bucket}/${bucket.prefix}`
    this.#client = new S3Client({
      region: bucket.region, maxAttempts: attempts, requestHandler: { connectionTimeout: 5_000, requestTimeout: 60_000, httpsAgent: { maxSockets: mostConnections }, httpAgent: { maxSockets: mostConnections } },
      // Services that are compatible do not all know newer checksums; takes and delivered files have their own.
      requestChecksumCalculation: 'WHEN_REQUIRED', responseChecksumValidation: 'WHEN_REQUIRED',
      ...(bucket.endpoint === null ? {} : { endpoint: bucket.endpoint, forcePathStyle: true }),
    })
    this.#drive = new S3Driver({ client: this.#client, bucket: bucket.bucket, visibility: 'private', supportsACL: false })
  }

  async room(): Promise<null> {
    await this.#asking(() => this.#client.send(new HeadBucketCommand({ Bucket: this.#bucket.bucket })))
    return null
  }

  put(name: string, bytes: Uint8Array): Promise<void> {
    return this.#asking(() => this.#drive.put(this.#key(name), bytes, { contentLength: bytes.length }))
  }

  async draft(name: string): Promise<Draft> {
    const local = await this.drafts.draft(randomUUID())
    return {
      path: local.path,
      settle: () => Promise.resolve(),
      commit: async (as = name) => {
        const { size } = await stat(local.path)
        await this.#asking(() => this.#drive.putStream(this.#key(as), createReadStream(local.path), { contentLength: size }))
        await local.discard()
      },
      discard: local.discard,
    }
  }

  copy(from: string, to: string): Promise<void> {
    return this.#asking(() => this.#drive.copy(this.#key(from), this.#key(to)))
  }

  async find(name: string): Promise<StoredFile | null> {
    const found = await this.#unlessNothing(() => this.#drive.getMetaData(this.#key(name)))
    return found === null ? null : stored(name, found.contentLength, found.lastModified, found.etag)
  }

  async list(folder: string): Promise<StoredFile[]> {
    const found: StoredFile[] = []
    for (let token: string | undefined, more = true; more;) {
      const question = new ListObjectsV2Command({ Bucket: this.#bucket.bucket, Prefix: this.#key(`${folder}/`), MaxKeys: this.#bucket.namesAtOnce, ContinuationToken: token })
      const page = await this.#asking(() => this.#client.send(question))
      for (const { Key, Size, LastModified, ETag } of page.Contents ?? []) found.push(stored(Key!.slice(this.#bucket.prefix.length), Size!, LastModified!, ETag!))
      token = page.NextContinuationToken
      more = token !== undefined
    }
    return found
  }

  async read(name: string, from: number, length: number, into?: Buffer): Promise<Buffer> {
    if (length === 0) return Buffer.alloc(0)
    const bytes = await this.#unlessNothing(async () => {
      const { Body } = await this.#client.send(new GetObjectCommand({ Bucket: this.#bucket.bucket, Key: this.#key(name), Range: `bytes=${from}-${from + length - 1}` }))
      return Body!.transformToByteArray()
    })
    const count = bytes?.length ?? 0
    const room = into ?? Buffer.allocUnsafeSlow(count)
    room.set(bytes ?? [])
    return room.subarray(0, count)
  }

  stream(name: string): Promise<Readable | null> {
    return this.#unlessNothing(() => this.#drive.getStream(this.#key(name)))
  }

  async sha256(name: string): Promise<string | null> {
    const bytes = await this.stream(name)
    if (bytes === null) return null
    const digest = createHash('sha256')
    for await (const chunk of bytes) digest.update(chunk as Buffer)
    return digest.digest('hex')
  }

  async withLocal<T>(name: string, use: (path: string) => Promise<T>): Promise<T> {
    const local = await this.drafts.draft(randomUUID())
    try {
      const bytes = await this.stream(name) ?? fail('file-gone', `${name} is no longer in ${this.place}.`)
      await pipeline(bytes, createWriteStream(local.path))
      return await use(local.path)
    } finally {
      await local.discard()
    }
  }

  remove(name: string): Promise<void> {
    return this.#asking(() => this.#drive.delete(this.#key(name)))
  }

  close(): Promise<void> {
    this.#client.destroy()
    return Promise.resolve()
  }

  #key(name: string): string {
    return this.#bucket.prefix + name
  }

  async #unlessNothing<T>(ask: () => Promise<T>): Promise<T | null> {
    return this.#asking(() => ask().catch((error: unknown) => {
      if (nothingThere.has(statusOf(error))) return null
      throw error
    }))
  }

  /** What the service says becomes a problem. */
  #asking<T>(ask: () => Promise<T>): Promise<T> {
    return ask().catch((error: unknown) => {
      const { message, name } = error as Error
      const status = statusOf(error)
      return fail('storage-away', `The storage ${this.place} ${status === undefined ? `does not answer (${message || name})` : `refuses (${status}, ${name})`}. See that it runs and can be reached, and that its bucket and keys are right; then try again: what is done is kept.`)
    })
  }
}

function statusOf(error: unknown): number | undefined {
  return (error as { readonly $metadata?: { readonly httpStatusCode?: number } }).$metadata?.httpStatusCode
}

function stored(name: string, bytes: number, changedAt: Date, etag: string): StoredFile {
  return { name, bytes, changedMs: changedAt.getTime(), version: `${bytes} ${etag} ${changedAt.getTime()}`, identity: name, names: 1 }
}
