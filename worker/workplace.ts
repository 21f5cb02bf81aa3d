import type { Database } from '#store/database'
import type { TakeLibrary } from '#takes/library'
import type { FileStorage } from '#takes/storage'
import type { SpeechEngines } from '#voices/engines'

/** What a job works with. */
export interface Workplace {
  /** The same after a restart by the supervisor. */
  readonly worker: string
  readonly database: Database
  readonly library: TakeLibrary
  readonly engines: SpeechEngines
  readonly storage: FileStorage
}
