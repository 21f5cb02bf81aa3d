import { writeReportCsv, type ConformanceReport } from '#core/delivery/report'

interface ReportForm {
  readonly mediaType: string
  readonly write: (report: ConformanceReport) => string | Promise<string>
}

/** What a report can be written as, by the ending of its file: a page to print, a table, or data. The drawing library is loaded for a page only. */
export const reportForms: Readonly<Record<string, ReportForm>> = {
  html: { mediaType: 'text/html', write: async report => (await import('./report-html')).reportHtml(report) },
  csv: { mediaType: 'text/csv', write: writeReportCsv },
  json: { mediaType: 'application/json', write: report => `${JSON.stringify(report, null, 2)}\n` },
}

/** Null where there is none of this name. */
export const reportForm = (name: string): ReportForm | null => Object.hasOwn(reportForms, name) ? reportForms[name]! : null
