import { getRouterParam, setResponseHeaders } from 'h3'
import { fail } from '#core/problem'
import { reportForm } from '#press/report-forms'
import { deliveryBytes } from '#store/delivery-report'
import { idParam, route } from '../../../../utils/route'

/** The report of a delivery as a file. */
export default route(async (event, { database, work }) => {
  const form = getRouterParam(event, 'form')!
  const { mediaType } = reportForm(form) ?? fail('not-found', 'A report is there as html, csv, or json.')
  const deliveryId = idParam(event)
  const { name, text } = await work.result('reportFile', { deliveryId, form }, await deliveryBytes(database, deliveryId))
  setResponseHeaders(event, { 'content-type': `${mediaType}; charset=utf-8`, 'content-disposition': `attachment; filename="${name}"` })
  return text
})
