import { brokenBy } from '#services/shelf'
import type { StorageView } from '#shared/api'
import { storageQuerySchema, type StorageQuery } from '#shared/schemas'
import { leastKept, storageView } from '#store/storage'
import { queryOf, route } from '../utils/route'

const query = queryOf<StorageQuery>(storageQuerySchema)

/** What uses the storage, and what of it could go. */
export default route((event, { database, storage, work }): Promise<StorageView> =>
  storageView(database, storage, Number(query(event).kept ?? leastKept), id => brokenBy(database, id, work.summarise)))
