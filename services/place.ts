import type { Database } from '#store/database'
import type { Folders } from '#store/folders'
import type { TakeLibrary } from '#takes/library'

/** What use cases work with, in the server and in the processes beside it. */
export interface Place {
  readonly database: Database
  readonly library: TakeLibrary
  readonly folders: Folders
}
