import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, startTestCluster } from '../../scripts/postgres.mjs'
import { environmentFor, runProgram, startServices } from '../../scripts/services.mjs'

/** Starts the built server and worker on a fresh database and an empty folder; gives the step that ends them. */
export default async function setup(): Promise<() => Promise<void>> {
  const given = process.env['QUILL_TEST_CLUSTER']
  const cluster = given === undefined ? await startTestCluster() : { url: (name: string) => given.replace(/\/[^/]*$/u, `/${name}`), stop: () => undefined }
  const data = await mkdtemp(join(tmpdir(), 'quill e2e '))
  const environment = environmentFor(cluster.url(`e2e_${process.pid}`), data)
  runProgram('prepare', environment)
  const port = await freePort(4280)
  const simulated = { folder: join(data, 'speech-service'), port: await freePort(port + 1) }
  const services = await startServices({ environment, port, simulated, logFolder: join(process.cwd(), 'var/test-results/log') })
  process.env['QUILL_ADDRESS'] = services.address
  process.env['QUILL_TEST_DATA'] = data
  process.env['QUILL_TEST_DATABASE'] = environment.QUILL_DATABASE_URL
  return async () => {
    await services.stop()
    cluster.stop()
    await rm(data, { recursive: true, force: true })
  }
}
