import { brokenBy } from '#services/shelf'
import { freeSchema, type FreeRequest } from '#shared/schemas'
import { freeStorage } from '#store/storage'
import { bodyOf, route } from '../../utils/route'

const body = bodyOf<FreeRequest>(freeSchema)

export default route(async (event, { database, storage, library, work }) => {
  const { kind, kept } = await body(event)
  return { freedBytes: await freeStorage(database, storage, library.packs, kind, kept, id => brokenBy(database, id, work.summarise)) }
})
