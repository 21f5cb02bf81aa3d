import { setResponseHeaders } from 'h3'
import { wordExportQuerySchema, type WordExportQuery } from '#shared/schemas'
import { wordbookBytes } from '#store/sizes'
import { idParam, queryOf, route } from '../../../../utils/route'

const query = queryOf<WordExportQuery>(wordExportQuerySchema)

/** A wordbook as a file. */
export default route(async (event, { database, work }) => {
  const { format, shared } = query(event)
  const editionId = idParam(event)
  const file = await work.result('wordbookFile', { editionId, format, shared }, await wordbookBytes(database, editionId))
  setResponseHeaders(event, {
    'content-type': format === 'pls' ? 'application/pls+xml; charset=utf-8' : 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="wordbook${shared === 'yes' ? '-shared' : ''}.${format}"`,
  })
  return file
})
