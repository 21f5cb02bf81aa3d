import { filePassagesQuerySchema, type FilePassagesQuery } from '#shared/schemas'
import { editionBytes } from '#store/sizes'
import { bringUpToDate } from '#store/summaries'
import { answerOf } from '../../../../utils/answer'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<FilePassagesQuery>(filePassagesQuerySchema)

/** The passages of one file. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  const { file } = query(event)
  await bringUpToDate(database, editionId, work.summarise)
  return answerOf(event, work, 'passagesOfFile', { editionId, file }, await editionBytes(database, editionId))
})
