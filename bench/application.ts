import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { variable } from '../scripts/paths.mjs'
import { freePort, startTestCluster } from '../scripts/postgres.mjs'
import { environmentFor, runProgram, startServices } from '../scripts/services.mjs'
import { Client } from './client'
import { cpuOf, type CpuTime } from './processes'

/** Utterances that a kill may cost: of two chunks each, a group of 16 that is being stored and two that are being spoken. */
export const mostInFlight = 36

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
export class Application extends Client {
  readonly folder: string
  readonly environment: Readonly<Record<string, string>>
  readonly #services: Services
  readonly #cluster: Cluster
  readonly #watching: NodeJS.Timeout

  private constructor(services: Services, cluster: Cluster, folder: string, environment: Readonly<Record<string, string>>) {
    super(services.address)
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
}
