import { open, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { fail } from '#core/problem'

/** Fixed, so that equal deliveries give equal packages. */
const entryTime = new Date(Date.UTC(2000, 0, 1))

export interface ZipPackage {
  /** Exact size of the whole package. */
  readonly bytes: number
  readonly stream: Readable
}

/** A file of a delivery. Rejects with a problem when it is no longer there. */
export function openFinished(folder: string, name: string): Promise<FileHandle> {
  return open(join(folder, name)).catch(() => fail('delivery-file-missing', `${name} is no longer on the disk. Make the delivery again.`))
}

/** A ZIP of the named files of a folder, stored, streamed with constant memory. Rejects with a problem when one is not there. */
export async function zipPackage(folder: string, names: readonly string[]): Promise<ZipPackage> {
  for (const name of names) await (await openFinished(folder, name)).close()
  const zip = new ZipFile()
  for (const name of names) zip.addFile(join(folder, name), name, { compress: false, mtime: entryTime, mode: 0o100644, forceDosTimestamp: true })
  return new Promise((resolve, reject) => {
    // Before the size is known nobody has the stream; after that nobody waits for the promise.
    zip.on('error', (error: Error) => {
      reject(error);
      (zip.outputStream as Readable).destroy(error)
    })
    // The type package does not know that the callback is given the size.
    const sized = (bytes: number): void => {
      if (bytes < 0) reject(new Error('The size of the package is not known in advance.'))
      else resolve({ bytes, stream: zip.outputStream as Readable })
    }
    zip.end({ forceZip64Format: false, comment: '' }, sized as () => void)
  })
}
