import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { randomBytes } from 'node:crypto'
import { dirname, join } from 'node:path'
import { endWithSupervisor } from '#store/supervised'
import { openEngines } from '#voices/engines'
import { Bill } from './bill'
import { serverOf } from './http'
import { SpeechService } from './service'
import { usualSettings, type Settings } from './settings'

// Run as: speech-service.mjs FOLDER PORT. The folder keeps its settings, with its key, and its bill.

const keyBytes = 18

const [folder, port] = process.argv.slice(2)
if (folder === undefined || port === undefined) throw new Error('Give a folder and a port.')
mkdirSync(folder, { recursive: true, mode: 0o700 })
const file = join(folder, 'settings.json')
const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) as Partial<Settings> : {}
const settings: Settings = { ...usualSettings, key: randomBytes(keyBytes).toString('base64url'), ...kept }
writeFileSync(file, `${JSON.stringify(settings, null, 2)}\n`, { mode: 0o600 })

const engines = openEngines({ programs: dirname(process.argv[1]!), parallel: 1 })
const server = serverOf(new SpeechService(settings, new Bill(join(folder, 'bill.jsonl')), engines))
server.listen(Number(port), '127.0.0.1')

function stop(): void {
  server.close()
  server.closeAllConnections()
  void engines.close().then(() => process.exit(0))
}
endWithSupervisor()
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
