import { look, machineFindings } from '#press/machine'
import type { Finding, HealthReport } from '#core/health'
import { queueLength, workersSeen } from '#store/workers'
import { lastErrors } from '../../utils/last-errors'
import { route } from '../../utils/route'
import type { Workshop } from '../../utils/workshop'

/** What the work needs, whether it is there, and what went wrong last. */
export default route(async (_, { database, engines, storage }): Promise<HealthReport> => {
  const machine = await machineFindings({ engines: engines.about(), storage })
  return { findings: [...machine, ...await databaseFindings(database)], errors: await lastErrors(process.env['QUILL_LOGS']) }
})

async function databaseFindings(database: Workshop['database']): Promise<Finding[]> {
  const found = await look('Database', async () => {
    const [row] = await database.rows<{ version: string }>('SELECT current_setting(\'server_version\') AS version')
    return `PostgreSQL ${row!.version}`
  })
  if (found.state === 'bad') return [{ ...found, remedy: 'bin/start starts it again by itself; if it does not, see the log in var/pg/log.' }]
  const seen = await workersSeen(database)
  const workers = seen.length
  const stuck = seen.flatMap(({ problem }) => problem ?? [])
  const { waiting, inHand } = await queueLength(database)
  const queue = `${waiting} waiting, ${inHand} in hand`
  return [
    found,
    stuck.length > 0
      ? { subject: 'Workers', state: stuck.length === workers ? 'bad' : 'poor', found: `${workers}, of which ${stuck.length === 1 ? 'one cannot' : `${stuck.length} cannot`} work`, remedy: stuck[0]!.message }
      : workers > 0
      ? { subject: 'Workers', state: 'good', found: String(workers), remedy: null }
      : { subject: 'Workers', state: 'bad', found: 'None is running: nothing is read or delivered.', remedy: 'Start one with bin/start; if it ends again, see var/log/worker.log.' },
    workers > 0 || waiting === 0
      ? { subject: 'Queue', state: 'good', found: queue, remedy: null }
      : { subject: 'Queue', state: 'poor', found: queue, remedy: 'It is worked off when a worker runs.' },
  ]
}
