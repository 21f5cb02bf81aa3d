import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { AddressInfo } from 'node:net'
import { v7 as uuidv7 } from 'uuid'
import { Bill } from '../../demo/speech-service/bill'
import { serverOf } from '../../demo/speech-service/http'
import { SpeechService } from '../../demo/speech-service/service'
import { usualSettings, type Settings } from '../../demo/speech-service/settings'
import { openEngines } from '../../voices/engines'
import { environmentAccounts, type Account, type Accounts } from '../../voices/paid/accounts'
import { programs } from './paths'

export interface RunningService {
  readonly service: SpeechService
  readonly account: Account
  /** Accounts that know this one alone, without a ledger. */
  readonly accounts: Accounts
  /** Its bill as it is in its file. */
  readonly billed: () => readonly { readonly request: string | null, readonly characters: number, readonly micros: number }[]
  readonly close: () => Promise<void>
}

/** The simulated service, as fast as it can be unless it is told otherwise; `random` decides on its faults. */
export async function speechService(settings: Partial<Settings> = {}, random?: () => number): Promise<RunningService> {
  const folder = mkdtempSync(join(tmpdir(), 'quill-service-'))
  const file = join(folder, 'bill.jsonl')
  const engines = openEngines({ programs, parallel: 2 })
  const service = new SpeechService({ ...usualSettings, key: 'right-key', requestsPerSecond: 1_000, ...settings }, new Bill(file), engines, random)
  const server = serverOf(service)
  await new Promise<void>(resolve => { server.listen(0, '127.0.0.1', resolve) })
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  const account = { id: uuidv7(), engine: 'netvoice', address, key: 'right-key' }
  return {
    service, account,
    accounts: environmentAccounts({ QUILL_SERVICE_ADDRESS: address, QUILL_SERVICE_KEY: account.key }),
    billed: () => readFileSync(file, 'utf8').split('\n').filter(line => line !== '').map(line => JSON.parse(line) as { request: string | null, characters: number, micros: number }),
    close: async () => {
      server.closeAllConnections()
      await new Promise(resolve => { server.close(resolve) })
      await engines.close()
      rmSync(folder, { recursive: true })
    },
  }
}
