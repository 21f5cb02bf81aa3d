import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { setResponseStatus } from 'h3'
import { v7 as uuidv7 } from 'uuid'
import { uploadQuerySchema, type UploadQuery } from '#shared/schemas'
import { ManuscriptRow } from '#store/models'
import { arrivingName, storeArriving } from '../../utils/arriving-file'
import { progressOf } from '../../utils/intakes'
import { manuscriptView } from '../../utils/manuscripts'
import { queryOf, route } from '../../utils/route'

const query = queryOf<UploadQuery>(uploadQuerySchema)

/** Takes a file in: its bytes are the body, streamed to disk. Its reading goes on after the answer. */
export default route(async (event, shop) => {
  const { name, encoding } = query(event)
  const { folders } = shop
  const fileName = arrivingName(name)
  await mkdir(folders.manuscripts, { recursive: true })
  const arriving = join(folders.manuscripts, `${randomUUID()}.part`)
  try {
    const sha256 = await storeArriving(event.node.req, arriving, fileName)
    await rename(arriving, join(folders.manuscripts, sha256))
    const row = await ManuscriptRow.create({ id: uuidv7(), fileName, sha256, content: null, state: 'reading', progress: 0, options: encoding === undefined ? {} : { encoding } })
    setResponseStatus(event, 202)
    return await manuscriptView(row, await progressOf(row, shop), shop)
  } finally {
    await rm(arriving, { force: true })
  }
})
