import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'

/** Fixed, so that equal deliveries give equal packages. */
const entryTime = new Date(Date.UTC(2000, 0, 1))

export interface ZipPackage {
  /** Exact size of the whole package. */
  readonly bytes: number
  readonly stream: Readable
}

/** A ZIP of the named files of a folder, stored, streamed with constant memory. */
export function zipPackage(folder: string, names: readonly string[]): Promise<ZipPackage> {
  const zip = new ZipFile()
  for (const name of names) zip.addFile(join(folder, name), name, { compress: false, mtime: entryTime, mode: 0o100644, forceDosTimestamp: true })
  return new Promise((resolve, reject) => {
    zip.on('error', reject)
    // The type package does not know that the callback is given the size.
    const sized = (bytes: number): void => {
      if (bytes < 0) reject(new Error('The size of the package is not known in advance.'))
      else resolve({ bytes, stream: zip.outputStream as Readable })
    }
    zip.end({ forceZip64Format: false, comment: '' }, sized as () => void)
  })
}
