import { brokenBy } from '#services/shelf'
import type { StorageView } from '#shared/api'
import { storageView } from '#store/storage'
import { route } from '../utils/route'

/** What uses the disk, and what of it could go. */
export default route((_, { database, folders, work }): Promise<StorageView> => storageView(database, folders, id => brokenBy(database, id, work.summarise)))
