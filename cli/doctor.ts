import { readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Finding, HealthReport } from '#core/health'
import { machineFindings } from '#press/machine'
import { FolderStorage } from '#takes/folder-storage'
import { cacheFolder, openVoices } from './environment'
import { printJson, printTable } from './print'

const signs = { good: 'ok', poor: 'look', bad: 'BAD' } as const
const patienceMs = 20_000

/** Looks at this machine and at the server started from this folder, if there is one. Ends with 1 when something is bad. */
export async function doctor(flags: { cache?: string, json?: boolean }): Promise<void> {
  const engines = openVoices(1)
  try {
    const machine = await machineFindings({ engines: engines.about(), storage: new FolderStorage(cacheFolder(flags.cache)) })
    const served = await askServer()
    const seen = new Set(machine.map(finding => `${finding.subject}${finding.found}`))
    const findings = [...machine, ...served.findings.filter(finding => !seen.has(`${finding.subject}${finding.found}`))]
    if (findings.some(finding => finding.state === 'bad')) process.exitCode = 1
    if (flags.json === true) {
      printJson({ findings, errors: served.errors })
      return
    }
    printTable(['State', 'What', 'Found'], findings.map(finding => [signs[finding.state], finding.subject, finding.found]))
    for (const { subject, remedy } of findings) if (remedy !== null) process.stdout.write(`${subject}: ${remedy}\n`)
    for (const error of served.errors.slice(0, 5)) process.stdout.write(`${error.at} ${error.process}: ${error.message} (${error.request ?? error.job ?? 'no id'})\n`)
  } finally {
    await engines.close()
  }
}

async function askServer(): Promise<HealthReport> {
  const only = (state: Finding['state'], found: string, remedy: string | null): HealthReport => ({ findings: [{ subject: 'Server', state, found, remedy }], errors: [] })
  const address = process.env['QUILL_ADDRESS'] ?? (await readFile(join(dirname(process.argv[1]!), '../var/address'), 'utf8').catch(() => '')).trim()
  if (address === '') return only('good', 'not started; the command line needs none', null)
  try {
    const response = await fetch(`${address}/api/health/report`, { signal: AbortSignal.timeout(patienceMs) })
    if (!response.ok) return only('bad', `${address} answers ${response.status}`, 'See var/log/server.log, then run bin/start again.')
    const report = await response.json() as HealthReport
    return { findings: [{ subject: 'Server', state: 'good', found: address, remedy: null }, ...report.findings], errors: report.errors }
  } catch {
    return only('bad', `${address} does not answer`, 'Run bin/start again; if it ends, see var/log/server.log.')
  }
}
