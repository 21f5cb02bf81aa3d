import { basename } from 'node:path'
import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { isBeside } from '#core/delivery/lists'
import { fail } from '#core/problem'
import { nameIn, type DeliveryPlace } from './deliver'

/** Fixed, so that equal deliveries give equal packages. */
const entryTime = new Date(Date.UTC(2000, 0, 1))

export interface ZipPackage {
  /** Exact size of the whole package. */
  readonly bytes: number
  readonly stream: Readable
}

/** A file of a delivery from its beginning to its end. Rejects with a problem when it is no longer there. */
export async function streamFinished(place: DeliveryPlace, name: string): Promise<Readable> {
  return await place.storage.stream(nameIn(place, name)) ?? gone(name)
}

function gone(name: string): never {
  return fail('delivery-file-missing', `${name} is no longer on the disk. Make the delivery again.`)
}

/** The names of what lies beside the files of a delivery. */
export async function extrasIn({ storage, folder }: DeliveryPlace): Promise<string[]> {
  return (await storage.list(folder)).map(file => basename(file.name)).filter(isBeside).sort()
}

/** A ZIP of the named files of a delivery, stored, streamed with constant memory. Rejects with a problem when one is not there. */
export async function zipPackage(place: DeliveryPlace, names: readonly string[]): Promise<ZipPackage> {
  const sizes: number[] = []
  for (const name of names) sizes.push((await place.storage.find(nameIn(place, name)) ?? gone(name)).bytes)
  const zip = new ZipFile()
  const broken = (error: unknown): void => { zip.emit('error', error) }
  for (const [index, name] of names.entries()) {
    zip.addReadStreamLazy(name, { compress: false, mtime: entryTime, mode: 0o100644, forceDosTimestamp: true, size: sizes[index]! }, begin => {
      streamFinished(place, name).then(bytes => { begin(null, bytes.on('error', broken)) }, broken)
    })
  }
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
