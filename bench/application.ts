import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import type { DeliveryDesk, Desk, ManuscriptView, ReadingDesk } from '#shared/api'
import { variable } from '../scripts/paths.mjs'
import { freePort, startTestCluster } from '../scripts/postgres.mjs'
import { environmentFor, runProgram, startServices } from '../scripts/services.mjs'
import { cpuOf, type CpuTime } from './processes'

/** Utterances that a kill may cost: of two chunks each, a group of 16 that is being stored and two that are being spoken. */
export const mostInFlight = 36

/** Between two looks at work that runs, ms. */
const lookMs = 200

/** Between two looks whether the database is there, ms. */
const watchMs = 1000

interface Services {
  readonly address: string
  readonly pid: (name: string) => number
  readonly stop: () => Promise<void>
}

interface Cluster {
  readonly pid: () => number
  readonly revive: () => boolean
  readonly stop: () => void
}

/** Web server, worker and a durable database of their own. */
export class Application {
  readonly address: string
  readonly folder: string
  readonly environment: Readonly<Record<string, string>>
  readonly #services: Services
  readonly #cluster: Cluster
  readonly #watching: NodeJS.Timeout

  private constructor(services: Services, cluster: Cluster, folder: string, environment: Readonly<Record<string, string>>) {
    this.address = services.address
    this.folder = folder
    this.environment = environment
    this.#services = services
    this.#cluster = cluster
    // As the start command does.
    this.#watching = setInterval(() => {
      try {
        cluster.revive()
      } catch {
        // Its last processes may still be there; the next look tries again.
      }
    }, watchMs)
  }

  /** Starts it on a port of its own, logging to `var/<logs>`. */
  static async start(logs: string, firstPort = 4380): Promise<Application> {
    const cluster = await startTestCluster({ durable: true })
    const folder = await mkdtemp(join(tmpdir(), 'quill-bench-'))
    const environment = environmentFor(cluster.url('bench'), join(folder, 'data'))
    runProgram('prepare', environment)
    const services = await startServices({ environment, port: await freePort(firstPort), logFolder: join(variable, logs) })
    return new Application(services, cluster, folder, environment)
  }

  async stop(): Promise<void> {
    clearInterval(this.#watching)
    await this.#services.stop()
    this.#cluster.stop()
    await rm(this.folder, { recursive: true, force: true })
  }

  pid(name: 'server' | 'worker' | 'database'): number {
    return name === 'database' ? this.#cluster.pid() : this.#services.pid(name)
  }

  cpu(): Readonly<Record<'server' | 'worker' | 'database', CpuTime>> {
    return { server: cpuOf(this.pid('server')), worker: cpuOf(this.pid('worker')), database: cpuOf(this.pid('database')) }
  }

  async ask<T>(path: string, method = 'GET', body?: object | string): Promise<T> {
    const response = await fetch(`${this.address}/api/${path}`, body === undefined ? { method } : {
      method, body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' },
    })
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
    return await response.json() as T
  }

  /** A production of a Markdown text, divided at its headings of this level; gives its edition's id. */
  async produce(title: string, text: string, level: number): Promise<string> {
    const { id } = await this.ask<ManuscriptView>(`manuscripts?name=${encodeURIComponent(`${title}.md`)}`, 'POST', text)
    await this.taken(id)
    const { editionId } = await this.ask<{ editionId: string }>('editions', 'POST', { manuscriptId: id, title, language: 'en-GB', choices: { split: { by: 'heading', level } } })
    return editionId
  }

  /** Waits until a document has been read. */
  async taken(id: string): Promise<void> {
    for (;;) {
      const { state, problem } = await this.ask<ManuscriptView>(`manuscripts/${id}`)
      if (state === 'ready') return
      if (state !== 'reading') throw new Error(`The document was not read: ${problem?.message ?? state}`)
      await sleep(lookMs)
    }
  }

  /** Reads what is missing; gives the seconds it took. */
  async read(editionId: string): Promise<number> {
    const began = performance.now()
    await this.ask(`editions/${editionId}/readings`, 'POST', {})
    for (;;) {
      const { reading, faults } = await this.ask<ReadingDesk>(`editions/${editionId}/reading`)
      if (reading?.state === 'done' && faults.length === 0) return (performance.now() - began) / 1000
      if (reading?.state !== 'running') throw new Error(`The reading ended: ${JSON.stringify({ reading, faults: faults.slice(0, 3) })}`)
      await sleep(lookMs)
    }
  }

  /** Makes the files; gives the seconds it took. */
  async deliver(editionId: string): Promise<number> {
    const began = performance.now()
    const { deliveryId } = await this.ask<{ deliveryId: string }>(`editions/${editionId}/deliveries`, 'POST', {})
    for (;;) {
      const { state } = await this.ask<{ state: string }>(`deliveries/${deliveryId}`)
      if (state === 'done') return (performance.now() - began) / 1000
      if (state !== 'running') throw new Error(`The delivery ended: ${state}.`)
      await sleep(lookMs)
    }
  }

  desk(editionId: string): Promise<Desk> {
    return this.ask(`editions/${editionId}`)
  }

  runSheet(editionId: string): Promise<DeliveryDesk> {
    return this.ask(`editions/${editionId}/run-sheet`)
  }
}
