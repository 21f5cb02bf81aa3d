import { setResponseHeaders } from 'h3'
import { fileSafe } from '#core/runsheet/file-name'
import { scriptMediaTypes } from '#core/script/export'
import { scriptQuerySchema, type ScriptQuery } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { editionBytes } from '#store/sizes'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<ScriptQuery>(scriptQuerySchema)

/** The script as a file. */
export default route(async (event, { database, work }) => {
  const { format } = query(event)
  const editionId = idParam(event)
  const { production } = await loadEdition(editionId)
  const bytes = await work.result('scriptFile', { editionId, format }, await editionBytes(database, editionId))
  setResponseHeaders(event, { 'content-type': scriptMediaTypes[format], 'content-disposition': `attachment; filename="${fileSafe(production.title)}.${format}"`, 'cache-control': 'no-store' })
  return bytes
})
