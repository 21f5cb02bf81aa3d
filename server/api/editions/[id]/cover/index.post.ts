import { randomUUID } from 'node:crypto'
import { examineCover } from '#press/cover'
import { fileQuerySchema, type FileQuery } from '#shared/schemas'
import { changeEdition, loadEdition } from '#store/editions'
import { coverFile } from '#store/folders'
import { arrivingName, storeArriving } from '../../../../utils/arriving-file'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<FileQuery>(fileQuerySchema)

/** Takes a picture as the cover: the bytes of its file are the body. */
export default route(async (event, { database, storage }) => {
  const name = arrivingName(query(event).name)
  const { edition: { id } } = await loadEdition(idParam(event))
  const arriving = await storage.draft(coverFile(randomUUID()))
  try {
    await storeArriving(event.node.req, arriving.path, name)
    const cover = await examineCover(arriving.path, name)
    await arriving.commit(coverFile(cover.sha256))
    await changeEdition(database, id, { cover })
    return cover
  } finally {
    await arriving.discard()
  }
})
