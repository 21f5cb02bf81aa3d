import type { Readable } from 'node:stream'

/** A file of a storage as it is now. */
export interface StoredFile {
  readonly name: string
  readonly bytes: number
  /** ms since 1970, by the clock of the storage. */
  readonly changedMs: number
  /** Another one after every change. */
  readonly version: string
  /** What is the same for all names of one file, and how many names it has. */
  readonly identity: string
  readonly names: number
}

/** A file on this machine that is being written; the storage has it when it is finished. */
export interface Draft {
  readonly path: string
  /** What is written so far is made lasting, so that the commit has less to wait for; nothing to do where that would not help. */
  readonly settle: () => Promise<void>
  /** Puts it into the storage, whole and lasting, under its own name or another. Rejects with a problem when that cannot be done. */
  readonly commit: (name?: string) => Promise<void>
  /** Removes what there is of it; nothing to do after a commit. */
  readonly discard: () => Promise<void>
}

/** A file that is added to. */
export interface GrowingFile {
  /** Writes bytes at a place; they are whole and lasting when the promise resolves. */
  readonly write: (bytes: Uint8Array, at: number) => Promise<void>
  readonly close: () => Promise<void>
}

/**
 * Where the files of an installation are: a folder, or a bucket of an S3-compatible service. Names are paths below it, divided by “/”. Whatever is asked rejects with a
 * problem when there is no room, no permission or no answer.
 */
export interface FileStorage {
  /** For messages. */
  readonly place: string
  /** Bytes that there is still room for; null where that has no limit. Rejects with a problem when nothing can be written. */
  readonly room: () => Promise<number | null>
  readonly put: (name: string, bytes: Uint8Array) => Promise<void>
  readonly draft: (name: string) => Promise<Draft>
  /** Begins a file that is added to; null where a file can only be written whole. */
  readonly grow: ((name: string) => Promise<GrowingFile>) | null
  /** Gives a file a second name, in the place of another file if need be. */
  readonly copy: (from: string, to: string) => Promise<void>
  readonly find: (name: string) => Promise<StoredFile | null>
  /** The files below a folder, with their whole names; none when there is no such folder. */
  readonly list: (folder: string) => Promise<StoredFile[]>
  /** A stretch of a file, in memory of its own or in that which is given; less of it where the file is shorter, missing, or cannot be read there. */
  readonly read: (name: string, from: number, length: number, into?: Buffer) => Promise<Buffer>
  /** A file from its beginning to its end; null when it is not there. */
  readonly stream: (name: string) => Promise<Readable | null>
  /** SHA-256 (hex) of a file; null when it is not there. */
  readonly sha256: (name: string) => Promise<string | null>
  /** Does something with a file that must lie on this machine. Rejects when it is not there. */
  readonly withLocal: <T>(name: string, use: (path: string) => Promise<T>) => Promise<T>
  /** One that is not there is removed already. */
  readonly remove: (name: string) => Promise<void>
  /** Where drafts lie: itself, or a folder of this machine. */
  readonly drafts: FileStorage
  readonly close: () => Promise<void>
}

/** Behind the name of a file, what marks its draft. */
export const draftMark = '.part'
