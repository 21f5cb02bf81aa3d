import { writeFile } from 'node:fs/promises'
import { extname, join, parse } from 'node:path'
import type { ConformanceReport } from '#core/delivery/report'
import { verdictOf } from '#core/delivery/verdict'
import { clock } from '#core/estimate/clock'
import { fail } from '#core/problem'
import { reportForm, reportForms } from '#press/report-forms'
import { counted } from './print'

const formOf = (path: string): ReturnType<typeof reportForm> => reportForm(extname(path).slice(1).toLowerCase())

/** Throws a problem where the name of a report does not say what it is to be. */
export function refuseReportName(path: string | undefined): void {
  if (path !== undefined && formOf(path) === null) fail('report-form', `${path} does not say what kind of report it is to be. End its name with ${Object.keys(reportForms).map(name => `.${name}`).join(', ')}.`)
}

/** Writes a report where one is asked for; its name has that of its profile where there are several. */
export async function writeReport(path: string | undefined, profile: string | null, report: ConformanceReport): Promise<void> {
  if (path === undefined) return
  const { dir, name, ext } = parse(path)
  await writeFile(profile === null ? path : join(dir, `${name}-${profile}${ext}`), await formOf(path)!.write(report))
}

/** Says which files fail, where and why, and what to do, and how many. Ends with 1 when one does and nobody has said why that is to be so. */
export function sayVerdict({ files, profile, concession }: ConformanceReport, say: (line: string) => void): void {
  for (const { name, findings } of files) {
    for (const { atMs, message, place, remedy } of findings ?? []) say(`${name}${atMs === null ? '' : ` at ${clock(atMs)}`}: ${message}${place === undefined ? '' : ` “${place.text}”`} ${remedy}`)
  }
  const failing = files.filter(({ findings }) => verdictOf(findings) !== 'passes').length
  say(failing === 0 ? `${counted(files.length, 'file')}: all pass “${profile}”` : `${failing} of ${counted(files.length, 'file')} ${failing === 1 ? 'does' : 'do'} not pass “${profile}”`)
  if (failing > 0 && concession === null) process.exitCode = 1
}
