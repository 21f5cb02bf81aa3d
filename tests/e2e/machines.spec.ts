import { spawn, type ChildProcess } from 'node:child_process'
import { createHash } from 'node:crypto'
import { once } from 'node:events'
import { mkdtempSync, readFileSync } from 'node:fs'
import { open, readdir, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import pg from 'pg'
import type { Manifest } from '#core/delivery/manifest'
import type { ManuscriptView, Page } from '#shared/api'
import { Client } from '../../bench/client'
import { freePort, startTestCluster } from '../../scripts/postgres.mjs'
import { folders } from '../../store/folders'
import { openStorage } from '../../takes/open-storage'
import type { FileStorage } from '../../takes/storage'
import { startBucket } from '../support/bucket'

// Two servers and two workers, each started by the command that the README names, with nothing in common but the database and the storage.

const firstPort = 4780
/** The commands of the section, in their order: they prepare the database, start a server, start a worker. */
const [prepare, serve, work] = readFileSync('README.md', 'utf8').split('## Beyond one machine')[1]!.split('\n## ')[0]!.split('\n').filter(line => /^(?:[A-Z]+=\S+ )*node /u.test(line)) as [string, string, string]

interface Process {
  readonly child: ChildProcess
  readonly log: string
}

/** The installation of one test. */
class Machines {
  readonly folder = mkdtempSync(join(tmpdir(), 'quill machines '))
  readonly #environment: Readonly<Record<string, string>>
  readonly #processes: Process[] = []

  constructor(environment: Readonly<Record<string, string>>) {
    this.#environment = environment
  }

  /** Runs a command of the README on a machine, whose log is that of its name. */
  async run(command: string, machine: string): Promise<Process> {
    const log = join(this.folder, `${machine}.log`)
    const file = await open(log, 'a')
    const child = spawn('sh', ['-c', `exec env ${command}`], { env: { ...process.env, QUILL_DATA: join(this.folder, machine), ...this.#environment }, stdio: ['ignore', file.fd, file.fd] })
    await file.close()
    const started = { child, log }
    this.#processes.push(started)
    return started
  }

  async server(machine: string, port: number): Promise<Process & Pick<Client, 'ask'> & { readonly client: Client }> {
    const started = await this.run(serve.replace(/PORT=\d+/u, `PORT=${port}`), machine)
    const client = new Client(`http://127.0.0.1:${port}`)
    await expect.poll(() => fetch(`${client.address}/api/health`).then(response => response.ok, () => false), { timeout: 30_000 }).toBe(true)
    return { ...started, client, ask: client.ask.bind(client) }
  }

  async stop(): Promise<void> {
    await Promise.all(this.#processes.map(async ({ child }) => {
      if (child.exitCode !== null || child.signalCode !== null) return
      child.kill('SIGTERM')
      await once(child, 'exit')
    }))
    await rm(this.folder, { recursive: true, force: true })
  }
}

const paragraph = (name: string, length: number): string => Array.from({ length }, (_, number) => `In ${name} this is sentence ${number} of all.`).join(' ')
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

async function bytesFrom({ address }: Client, path: string): Promise<Buffer> {
  const response = await fetch(`${address}/api/${path}`)
  expect(response.status).toBe(200)
  return Buffer.from(await response.arrayBuffer())
}

/** Uses an installation whose files are in a folder that all machines see, or in a bucket. */
async function withMachines(kind: 'folder' | 'bucket', use: (machines: Machines, database: pg.Client, storage: FileStorage) => Promise<void>): Promise<void> {
  const cluster = await startTestCluster()
  const bucket = kind === 'bucket' ? await startBucket() : null
  const shared = mkdtempSync(join(tmpdir(), 'quill shared '))
  const url = cluster.url('machines')
  const settings = { QUILL_DATA: shared, ...bucket?.environment }
  const machines = new Machines({ QUILL_DATABASE_URL: url, QUILL_PROGRAMS: join(process.cwd(), 'dist'), ...(bucket?.environment ?? settings) })
  Object.assign(process.env, bucket?.environment)
  const storage = await openStorage(settings)
  try {
    const { child } = await machines.run(prepare, 'server 1')
    expect(await once(child, 'exit')).toEqual([0, null])
    const database = new pg.Client(url)
    await database.connect()
    await use(machines, database, storage).finally(() => database.end())
  } finally {
    await machines.stop()
    await storage.close()
    await bucket?.stop()
    cluster.stop()
    await rm(shared, { recursive: true, force: true })
  }
}

for (const kind of ['folder', 'bucket'] as const) {
  test(`two servers and two workers over one ${kind} share an intake, a reading and a delivery`, async () => {
    await withMachines(kind, async (machines, database, storage) => {
      const port = await freePort(firstPort)
      const first = await machines.server('server 1', port)
      const second = await machines.server('server 2', await freePort(port + 1))
      const workers = await Promise.all(['worker 1', 'worker 2'].map(name => machines.run(work, name)))

      await test.step('a document that came in at one server is read to its end by the other when that one dies', async () => {
        const long = `# Long\n\n${'It goes on like this for a long time, so that there is a middle. '.repeat(20_000)}`
        const { id } = await first.ask<ManuscriptView>('manuscripts?name=long.md', 'POST', long)
        const reading = (): Promise<unknown[]> => database.query('SELECT state, reader IS NOT NULL AS held FROM manuscripts WHERE id = $1', [id]).then(({ rows }) => rows)
        await expect.poll(reading, { intervals: [20] }).toEqual([{ state: 'reading', held: true }])
        first.child.kill('SIGKILL')
        await second.client.taken(id)
      })
      const again = await machines.server('server 1', port)

      const title = 'Shared'
      const text = `# ${title}\n\n## One\n\n${paragraph('one', 110)}\n\n## Two\n\n${paragraph('two', 110)}\n`
      const id = await second.client.produce(title, text, 2)
      const { parts } = await again.client.desk(id)

      await test.step('a reading that was begun at one server is done by both workers, each sentence once', async () => {
        await again.client.read(id)
        expect((await second.client.desk(id)).reading?.state).toBe('done')
        for (const { log } of workers) expect((await readFile(log, 'utf8')).match(/"queue":"read[^\n]*A job is done/gu)?.length ?? 0).toBeGreaterThan(0)
        const { rows: [row] } = await database.query<{ bytes: string, takes: string }>('SELECT sum(sample_count * 2) AS bytes, count(*) AS takes FROM takes')
        const packs = await storage.list(folders.takes)
        expect(packs.reduce((sum, pack) => sum + pack.bytes, 0)).toBe(Number(row!.bytes))
        const utterances = (await Promise.all(parts.map(part => second.ask<Page>(`parts/${part.id}`)))).flatMap(page => page.utterances)
        expect(Number(row!.takes)).toBe(new Set(utterances.map(utterance => utterance.key)).size)
      })

      await test.step('both servers give the same sound', async () => {
        const [one, other] = [await bytesFrom(again.client, `parts/${parts[0]!.id}/track`), await bytesFrom(second.client, `parts/${parts[0]!.id}/track`)]
        expect(one.length).toBeGreaterThan(5_000_000)
        expect(sha256(one)).toBe(sha256(other))
      })

      await test.step('a delivery that was ordered at one server is fetched from the other', async () => {
        await second.client.deliver(id)
        const [delivery] = (await again.client.runSheet(id)).deliveries
        const manifest = JSON.parse(String(await storage.read(`${folders.deliveries}/${delivery!.id}/manifest.json`, 0, 10_000_000))) as Manifest
        expect(manifest.files.map(file => file.name)).toEqual(delivery!.files.map(file => file.name))
        for (const file of manifest.files) expect(sha256(await bytesFrom(again.client, `deliveries/${delivery!.id}/files/${file.number}`))).toBe(file.sha256)
        const size = delivery!.files.reduce((sum, file) => sum + file.bytes, 0)
        expect((await bytesFrom(again.client, `deliveries/${delivery!.id}/package`)).length).toBeGreaterThan(size)
      })

      if (kind === 'folder') return
      await test.step('nothing is left on the machines', async () => {
        for (const machine of ['server 1', 'server 2', 'worker 1', 'worker 2']) expect((await readdir(join(machines.folder, machine), { recursive: true }).catch(() => [])).filter(name => name !== 'work')).toEqual([])
      })
    })
  })
}
