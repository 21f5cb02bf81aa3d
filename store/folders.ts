import { join } from 'node:path'

/** Where the files of an installation are, below its data folder. */
export interface Folders {
  /** What all others lie in. */
  readonly data: string
  /** Packs of audio. */
  readonly takes: string
  /** Files that came in, named by their SHA-256. */
  readonly manuscripts: string
  /** One folder for each delivery, named by its id. */
  readonly deliveries: string
}

export function foldersIn(data: string): Folders {
  return { data, takes: join(data, 'takes'), manuscripts: join(data, 'manuscripts'), deliveries: join(data, 'deliveries') }
}
