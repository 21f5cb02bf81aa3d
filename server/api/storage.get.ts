import { brokenBy } from '#services/shelf'
import type { StorageView } from '#shared/api'
import { storageView } from '#store/storage'
import { route } from '../utils/route'

/** What uses the storage, and what of it could go. */
export default route((_, { database, storage, work }): Promise<StorageView> => storageView(database, storage, id => brokenBy(database, id, work.summarise)))
