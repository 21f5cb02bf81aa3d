// The supervisor behind bin/start: database, schema, demo, web server, worker; ends them in reverse order.
import { randomUUID } from 'node:crypto'
import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { variable } from './paths.mjs'
import { freePort, isPort, startLastingCluster } from './postgres.mjs'
import { endLeftovers, environmentFor, runProgram, startServices } from './services.mjs'

const empty = process.argv.includes('--empty')
let cluster = null
let services = null
let ending = null
let watching = null

const workerFile = join(variable, 'worker')

/** The worker of the last start: what it had in hand when it was killed, the next one takes up at once. */
function knownWorker() {
  const id = existsSync(workerFile) ? readFileSync(workerFile, 'utf8') : ''
  return /^[0-9a-f-]{36}$/u.test(id) ? id : null
}

function end(code) {
  clearInterval(watching)
  ending ??= (async () => {
    await services?.stop()
    cluster?.stop()
    rmSync(join(variable, 'address'), { force: true })
    process.exit(code)
  })()
  return ending
}

// Where bin/start is killed, nothing tells this process but that it has another parent.
const parent = process.ppid
const parentLookMs = 1000
setInterval(() => { if (process.ppid !== parent) void end(1) }, parentLookMs).unref()

process.on('SIGINT', () => void end(0))
process.on('SIGTERM', () => void end(0))

try {
  const wanted = Number(process.env.QUILL_PORT ?? 4180)
  if (!isPort(wanted)) throw new Error(`QUILL_PORT is “${process.env.QUILL_PORT}”. Give a port from 1 to 65535, such as QUILL_PORT=4180.`)
  const processFile = join(variable, 'processes.json')
  const left = await endLeftovers(processFile)
  if (left > 0) console.error(`${left === 1 ? 'One process' : `${left} processes`} of an earlier start, which was killed, ${left === 1 ? 'was' : 'were'} still there, and ${left === 1 ? 'was' : 'were'} ended.`)
  cluster = await startLastingCluster()
  // What is written from here on is for its owner only.
  process.umask(0o077)
  const data = join(variable, 'data')
  mkdirSync(data, { recursive: true })
  chmodSync(data, 0o700)
  const environment = environmentFor(cluster.url('orator_quill'), data)
  runProgram('prepare', environment)
  const demoMark = join(variable, 'demo-loaded')
  if (!empty && !existsSync(demoMark)) {
    runProgram('demo', environment)
    writeFileSync(demoMark, '')
  }
  const port = await freePort(wanted)
  if (port !== wanted) console.error(`Port ${wanted} is taken by another program, or may not be used; taking ${port}.`)
  const known = knownWorker()
  const worker = known ?? randomUUID()
  writeFileSync(workerFile, worker)
  const simulated = { folder: join(variable, 'speech-service'), port: await freePort(port + 1) }
  services = await startServices({
    environment, port, simulated, logFolder: join(variable, 'log'), processFile, worker, resume: known !== null,
    onEnd: (name, how, givenUp) => {
      if (ending !== null) return
      console.error(`The ${name} ended (${how}; see var/log/${name}.log)${givenUp ? ', too often: stopping.' : ' and is started again.'}`)
      if (givenUp) void end(1)
    },
  })
  watching = setInterval(() => {
    if (ending !== null) return
    try {
      if (cluster.revive()) console.error('The database had ended and was started again.')
    } catch (error) {
      // Its last processes may still be there; the next look tries again.
      console.error(error.message)
    }
  }, 2000)
  writeFileSync(join(variable, 'address'), `${services.address}\n`)
  console.log(`Orator Quill: ${services.address}   (Ctrl-C stops it)`)
  console.log(`A simulated speech service, to try paid voices: http://127.0.0.1:${simulated.port}`)
} catch (error) {
  console.error(error.message)
  await end(1)
}
