import type { Database } from '#store/database'
import type { TakeLibrary } from '#takes/library'
import type { Engine } from '#voices/port'

/** What a job works with. */
export interface Workplace {
  /** The same after a restart by the supervisor. */
  readonly worker: string
  readonly database: Database
  readonly library: TakeLibrary
  readonly engine: Engine
  /** Folder of finished deliveries, one folder each. */
  readonly deliveries: string
}
