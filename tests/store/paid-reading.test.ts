import { spawn, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import type PgBoss from 'pg-boss'
import { saveAccount, storedAccounts } from '../../store/accounts'
import { changeEdition } from '../../store/editions'
import { openQueue, sendChunks } from '../../store/queue'
import { readingStatus, startReading } from '../../store/readings'
import { scoreEdition, takesOfParts } from '../../store/score'
import { secretsIn } from '../../store/secrets'
import { takeIndex } from '../../store/take-index'
import { castingFor } from '../../voices/choose'
import { openEngines } from '../../voices/engines'
import { bodyOf, textOf } from '../../voices/paid/pieces'
import { ownDatabase, part, production } from '../support/database'
import { randomOf } from '../support/fuzz'
import { longText } from '../support/long-text'
import { programs } from '../support/paths'
import { speechService, type RunningService } from '../support/speech-service'
import type { Settings } from '../../demo/speech-service/settings'

// A service at its worst, and a worker that is killed: all is read, and no character is paid for twice.

const { database, url } = ownDatabase()
let folder = ''
let queue: PgBoss
const services: RunningService[] = []
const workers: ChildProcess[] = []
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'quill-paid-'))
  queue = await openQueue(url(), 'server')
})
afterAll(async () => {
  for (const worker of workers) worker.kill('SIGKILL')
  await Promise.all(services.map(service => service.close()))
  await queue.stop({ graceful: false })
  await rm(folder, { recursive: true, force: true })
})

function startWorker(id: string, again: boolean): ChildProcess {
  const worker = spawn(process.execPath, [join(programs, 'worker.mjs')], {
    env: { ...process.env, QUILL_DATABASE_URL: url(), QUILL_DATA: folder, QUILL_WORKER: id, ...(again ? { QUILL_RESUME: '1' } : {}) }, stdio: 'ignore', detached: true,
  })
  workers.push(worker)
  return worker
}

const takesMade = async (): Promise<number> => Number((await database().rows<{ count: string }>('SELECT count(*) FROM takes'))[0]!.count)

async function until(holds: () => Promise<boolean>, withinMs = 120_000): Promise<void> {
  for (const end = performance.now() + withinMs; performance.now() < end;) {
    if (await holds()) return
    await sleep(50)
  }
  throw new Error('It did not come about.')
}

/** Sentences that no other reading here has. */
async function setUp(settings: Partial<Settings>, texts: readonly string[], random?: () => number) {
  const service = await speechService(settings, random)
  services.push(service)
  await saveAccount(database(), secretsIn(folder), 'netvoice', { address: service.account.address, key: service.account.key })
  const editionId = await production(database(), part('One', ...texts))
  const engines = openEngines({ programs, parallel: 1, accounts: storedAccounts(database(), secretsIn(folder)) })
  await changeEdition(database(), editionId, { casting: castingFor(await engines.list(), 'en', { engine: 'netvoice' }) })
  await engines.close()
  const index = takeIndex(database())
  const scored = await scoreEdition(editionId)
  const { jobs } = await startReading(database(), index, editionId, scored.parts)
  await sendChunks(queue, jobs)
  const bodies = scored.parts.flatMap(({ score }) => score.utterances.map(({ request }) => bodyOf(request.body)))
  return { service, editionId, keys: takesOfParts(scored.parts), index, characters: sum(bodies.flatMap(({ pieces }) => pieces.map(piece => [...textOf(piece)].length))) }
}

const sum = (values: readonly number[]): number => values.reduce((all, value) => all + value, 0)

interface Entry { readonly id: string, readonly state: string, readonly tries: number, readonly characters: number, readonly micros: string }
const ledger = () => database().rows<Entry>('SELECT id, state, tries, characters, micros FROM ledger_entries WHERE account_id = (SELECT id FROM engine_accounts) ORDER BY asked_at')

test('with a third of the answers at fault and a worker killed three times everything is read, and the ledger is the bill', async () => {
  const texts = longText(40)
  const before = await takesMade()
  const { service, editionId, keys, index, characters } = await setUp(
    { charactersPerRequest: 600, prices: { plain: { microsPerMillion: 4_000_000, freeCharacters: 500 }, fine: { microsPerMillion: 16_000_000, freeCharacters: 0 } }, faults: { busy: 0.1, unavailable: 0.1, cutOff: 0.1, slow: 0.03 }, slowMs: 2_000 },
    texts, randomOf(3))
  const id = randomUUID()
  let worker = startWorker(id, false)
  for (const share of [0.1, 0.35, 0.6]) {
    await until(async () => await takesMade() - before >= share * keys.length)
    process.kill(-worker.pid!, 'SIGKILL')
    worker = startWorker(id, true)
  }
  await until(async () => (await readingStatus(database(), editionId))?.state === 'done')
  expect((await readingStatus(database(), editionId))!.faults).toBe(0)
  expect((await index.find(keys)).size).toBe(new Set(keys).size)
  const entries = await ledger()
  const bill = service.billed()
  expect(entries.map(({ state }) => state)).toEqual(entries.map(() => 'paid'))
  expect(entries.map(entry => entry.id).toSorted()).toEqual(bill.map(({ request }) => request).toSorted())
  expect([sum(entries.map(({ characters }) => characters)), sum(entries.map(({ micros }) => Number(micros)))]).toEqual([sum(bill.map(({ characters }) => characters)), sum(bill.map(({ micros }) => micros))])
  // Nothing is bought twice: the bill has the characters of the script.
  expect(sum(bill.map(({ characters }) => characters))).toBe(characters)
  expect(sum(entries.map(({ tries }) => tries))).toBeGreaterThan(entries.length)
  process.kill(-worker.pid!, 'SIGKILL')
}, 240_000)

test('a spent allowance stops the reading with its reason, and keeps what was read', async () => {
  const texts = longText(60).slice(40)
  const { editionId, keys, index } = await setUp({ charactersPerRequest: 400, charactersPerMonth: 1_200, requestsAtOnce: 1 }, texts)
  const worker = startWorker(randomUUID(), false)
  await until(async () => (await readingStatus(database(), editionId))?.state === 'stopped')
  const status = (await readingStatus(database(), editionId))!
  expect(status.problem).toMatchObject({ code: 'allowance-spent', message: expect.stringContaining('What is read is kept') as string })
  const made = (await index.find(keys)).size
  expect(made).toBeGreaterThan(0)
  expect(made).toBeLessThan(keys.length)
  // What was in flight comes to its end.
  await until(async () => (await ledger()).every(({ state }) => state !== 'open'), 20_000)
  process.kill(-worker.pid!, 'SIGKILL')
}, 120_000)
