import type { Place } from '../../services/place'
import type { Database } from '../../store/database'
import { takeIndex } from '../../store/take-index'
import { FolderStorage } from '../../takes/folder-storage'
import { openEngines } from '../../voices/engines'
import { programs } from './paths'
import { packsIn } from './takes'

/** A place with a database and no files; its engines start when they are asked. */
export function placeWithoutFiles(database: Database): Place {
  return { database, library: { index: takeIndex(database), packs: packsIn('/nowhere') }, storage: new FolderStorage('/nowhere'), engines: openEngines({ programs, parallel: 1 }) }
}
