import { randomUUID } from 'node:crypto'
import { setResponseStatus } from 'h3'
import { trackRateOf } from '#core/score/cast'
import { decodeSound } from '#press/decode'
import { fileQuerySchema, type FileQuery } from '#shared/schemas'
import { contextOf, loadEdition } from '#store/editions'
import { manuscriptFile } from '#store/folders'
import { addSound } from '#store/sounds'
import { keepSound } from '#takes/keep-sound'
import { arrivingName, storeArriving } from '../../../../utils/arriving-file'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<FileQuery>(fileQuerySchema)

/** Takes a sound into the library: the bytes of its file are the body. One of the same name is replaced. */
export default route(async (event, { database, library, storage }) => {
  const name = arrivingName(query(event).name)
  const id = idParam(event)
  const context = contextOf(await loadEdition(id))
  const arriving = await storage.draft(manuscriptFile(randomUUID()))
  try {
    await storeArriving(event.node.req, arriving.path, name)
    const sound = await keepSound(library, await decodeSound(arriving.path, name, trackRateOf(context, context.engines)))
    await addSound(database, id, name, sound)
  } finally {
    await arriving.discard()
  }
  setResponseStatus(event, 201)
  return { name }
})
