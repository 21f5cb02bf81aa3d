import { setResponseHeaders } from 'h3'
import { encoderName } from '#press/ffmpeg'
import { editionBytes } from '#store/sizes'
import { bringUpToDate } from '#store/summaries'
import { idParam, route } from '../../../../utils/route'

/** The run sheet as CSV. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  await bringUpToDate(database, editionId, work.summarise)
  const table = await work.result('runSheetTable', { editionId, encoder: await encoderName() }, await editionBytes(database, editionId))
  setResponseHeaders(event, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="run-sheet.csv"' })
  return table
})
