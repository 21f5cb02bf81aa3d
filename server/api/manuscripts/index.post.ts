import { randomUUID } from 'node:crypto'
import { setResponseStatus } from 'h3'
import { v7 as uuidv7 } from 'uuid'
import { uploadQuerySchema, type UploadQuery } from '#shared/schemas'
import { manuscriptFile } from '#store/folders'
import { ManuscriptRow } from '#store/models'
import { arrivingName, storeArriving } from '../../utils/arriving-file'
import { progressOf } from '../../utils/intakes'
import { manuscriptView } from '../../utils/manuscripts'
import { queryOf, route } from '../../utils/route'

const query = queryOf<UploadQuery>(uploadQuerySchema)

/** Takes a file in: its bytes are the body, streamed to the storage. Its reading goes on after the answer. */
export default route(async (event, shop) => {
  const { name, encoding } = query(event)
  const fileName = arrivingName(name)
  const arriving = await shop.storage.draft(manuscriptFile(randomUUID()))
  try {
    const sha256 = await storeArriving(event.node.req, arriving.path, fileName)
    await arriving.commit(manuscriptFile(sha256))
    const row = await ManuscriptRow.create({ id: uuidv7(), fileName, sha256, content: null, state: 'reading', progress: 0, options: encoding === undefined ? {} : { encoding } })
    setResponseStatus(event, 202)
    return await manuscriptView(row, await progressOf(row, shop), shop)
  } finally {
    await arriving.discard()
  }
})
