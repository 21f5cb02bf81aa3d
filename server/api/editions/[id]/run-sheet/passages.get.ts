import type { FilePassage } from '#shared/delivery'
import { filePassagesQuerySchema, type FilePassagesQuery } from '#shared/schemas'
import { filePassages } from '#store/run-sheet'
import { bringUpToDate } from '#store/summaries'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<FilePassagesQuery>(filePassagesQuerySchema)

/** The passages of one file. */
export default route(async (event, { database, work }): Promise<FilePassage[]> => {
  const { file } = query(event)
  return filePassages(database, await bringUpToDate(database, idParam(event), work.summarise), file)
})
