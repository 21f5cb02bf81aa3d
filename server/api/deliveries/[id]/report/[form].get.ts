import { getRouterParam, setResponseHeaders } from 'h3'
import { fail } from '#core/problem'
import { fileSafe } from '#core/runsheet/file-name'
import { reportForm } from '#press/report-forms'
import { deliveryReport } from '#store/delivery-report'
import { idParam, route } from '../../../../utils/route'

/** The report of a delivery as a file. */
export default route(async (event, { database }) => {
  const name = getRouterParam(event, 'form')!
  const form = reportForm(name) ?? fail('not-found', 'A report is there as html, csv, or json.')
  const { report } = await deliveryReport(database, idParam(event))
  setResponseHeaders(event, {
    'content-type': `${form.mediaType}; charset=utf-8`,
    'content-disposition': `attachment; filename="${fileSafe(report.title)}-${report.delivery!.number}-report.${name}"`,
  })
  return form.write(report)
})
