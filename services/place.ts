import type { Database } from '#store/database'
import type { TakeLibrary } from '#takes/library'
import type { FileStorage } from '#takes/storage'
import type { SpeechEngines } from '#voices/engines'

/** What use cases work with, in the server and in the processes beside it. */
export interface Place {
  readonly database: Database
  readonly library: TakeLibrary
  readonly storage: FileStorage
  readonly engines: SpeechEngines
}
