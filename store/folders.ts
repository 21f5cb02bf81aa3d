import { join } from 'node:path'

/** Where the files of an installation are, below its data folder. */
export interface Folders {
  /** Packs of audio. */
  readonly takes: string
  /** Files that came in, named by their SHA-256. */
  readonly manuscripts: string
  /** One folder for each delivery, named by its id. */
  readonly deliveries: string
}

export function foldersIn(data: string): Folders {
  return { takes: join(data, 'takes'), manuscripts: join(data, 'manuscripts'), deliveries: join(data, 'deliveries') }
}
