import { setResponseHeaders } from 'h3'
import { writeSheetCsv } from '#core/runsheet/table'
import { encoderName } from '#press/ffmpeg'
import { deliveryDesk } from '#store/deliveries'
import { bringUpToDate } from '#store/summaries'
import { idParam, route } from '../../../../utils/route'

/** The run sheet as CSV. */
export default route(async (event, { database, work }) => {
  const { rows } = await deliveryDesk(database, await bringUpToDate(database, idParam(event), work.summarise), await encoderName())
  setResponseHeaders(event, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="run-sheet.csv"' })
  return writeSheetCsv(rows.map(row => ({ ...row, verdict: row.findings === null ? '' : row.findings.length === 0 ? 'passes' : row.findings.map(finding => finding.message).join(' ') })))
})
