import { brokenBy } from '#services/shelf'
import { freeSchema, type FreeRequest } from '#shared/schemas'
import { freeStorage } from '#store/storage'
import { bodyOf, route } from '../../utils/route'

const body = bodyOf<FreeRequest>(freeSchema)

export default route(async (event, { database, folders, library, work }) => {
  const { kind } = await body(event)
  return { freedBytes: await freeStorage(database, folders, library.packs, kind, id => brokenBy(database, id, work.summarise)) }
})
