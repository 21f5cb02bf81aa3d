// Starts the web server and the worker, and ends them.
import { spawn, spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { chmodSync, closeSync, copyFileSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { programs, root } from './paths.mjs'
import { startOf } from './processes.mjs'

/** Runs one of the bundled programs to its end. Throws when it fails. */
export function runProgram(name, environment) {
  const result = spawnSync(process.execPath, [join(programs, `${name}.mjs`)], { cwd: root, env: { ...process.env, ...environment }, stdio: ['ignore', 'inherit', 'inherit'] })
  if (result.status !== 0) throw new Error(`${name} failed.`)
}

/** What server, worker and the programs are told. */
export function environmentFor(databaseUrl, dataFolder) {
  return { QUILL_DATABASE_URL: databaseUrl, QUILL_DATA: dataFolder, QUILL_PROGRAMS: programs, NUXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' }
}

const longestLogBytes = 10_000_000

/** Between two looks at how long the logs are, ms. */
const logLookMs = 30_000

/** The web server gives memory back instead of growing with the machine's: what takes much of it is done beside it. */
const serverFlags = ['--max-old-space-size=512', '--max-semi-space-size=4']

const simulatedName = 'speech-service'

/** A service that ends this often within a minute is not started again. */
const mostRestarts = 5

/**
 * Starts web server and worker and starts again what ends by itself; resolves when the server answers. `onEnd`
 * hears of one that ended, and whether it was given up. With `processFile` the processes are noted there, for `endLeftovers`.
 * With `simulated` the simulated speech service runs beside them; its folder has its settings and its bill.
 * A worker keeps its identity (`worker`, a UUID); one that had it before (`resume`) takes up what that had in hand.
 * @param {{ environment: Record<string, string>, port: number, logFolder: string, processFile?: string, worker?: string, resume?: boolean, simulated?: { folder: string, port: number }, onEnd?: (name: string, how: number | string | null, givenUp: boolean) => void }} options
 */
export async function startServices({ environment, port, logFolder, processFile, worker = randomUUID(), resume = false, simulated, onEnd }) {
  mkdirSync(logFolder, { recursive: true, mode: 0o700 })
  chmodSync(logFolder, 0o700)
  const children = new Map()
  let ending = false
  const start = (name, file, extra, { again = {}, flags = [], args = [] } = {}) => {
    const log = openLog(join(logFolder, `${name}.log`))
    const child = spawn(process.execPath, [...flags, file, ...args], {
      cwd: root, env: { ...process.env, ...environment, QUILL_LOGS: logFolder, QUILL_SUPERVISED: '1', ...extra, ...(children.has(name) ? again : {}) },
      // The pipe is never written to: it ends with this process, however that ends, and then the child ends too.
      stdio: ['pipe', log, log], detached: true,
    })
    closeSync(log)
    child.stdin.on('error', () => undefined)
    const ends = children.get(name)?.ends ?? []
    children.set(name, { child, ends })
    if (processFile !== undefined) noteProcesses(processFile, [process.pid, ...[...children.values()].map(each => each.child.pid)])
    child.once('exit', (code, signal) => {
      if (ending) return
      const now = Date.now()
      ends.push(now)
      const recent = ends.filter(at => now - at < 60_000).length
      const givenUp = recent > mostRestarts
      // The work goes on without the simulated service.
      onEnd?.(name, code ?? signal, givenUp && name !== simulatedName)
      // Longer every time: what it needs may be starting, such as the database.
      if (!givenUp) setTimeout(() => { if (!ending) start(name, file, extra, { again, flags, args }) }, 100 * 2 ** recent)
    })
  }
  start('server', join(root, '.output/server/index.mjs'), {
    ...(simulated === undefined ? {} : { QUILL_SIMULATED_FOLDER: simulated.folder, QUILL_SIMULATED_ADDRESS: `http://127.0.0.1:${simulated.port}` }),
    HOST: '127.0.0.1', NITRO_HOST: '127.0.0.1', PORT: String(port), NITRO_PORT: String(port), NITRO_SHUTDOWN_TIMEOUT: '1000',
  }, { flags: serverFlags })
  start('worker', join(programs, 'worker.mjs'), { QUILL_WORKER: worker, ...(resume ? { QUILL_RESUME: '1' } : {}) }, { again: { QUILL_RESUME: '1' } })
  if (simulated !== undefined) start(simulatedName, join(programs, 'speech-service.mjs'), {}, { args: [simulated.folder, String(simulated.port)] })
  const rotating = setInterval(() => { for (const name of children.keys()) rotate(join(logFolder, `${name}.log`)) }, logLookMs)
  const stop = async () => {
    ending = true
    clearInterval(rotating)
    await Promise.all([...children.values()].map(({ child }) => end(child)))
    if (processFile !== undefined) rmSync(processFile, { force: true })
  }
  const address = `http://127.0.0.1:${port}`
  try {
    await answering(`${address}/api/health`)
  } catch (error) {
    await stop()
    throw error
  }
  return { address, pid: name => children.get(name).child.pid, stop }
}

/** Opens a log to add to, for its owner only. */
function openLog(path) {
  rotate(path)
  const log = openSync(path, 'a', 0o600)
  chmodSync(path, 0o600)
  return log
}

/** Sets a log that has grown long aside, and begins it anew. Whoever writes to it goes on: it is open for adding. */
export function rotate(path) {
  if (!existsSync(path) || statSync(path).size <= longestLogBytes) return
  copyFileSync(path, `${path}.1`)
  truncateSync(path)
}

function noteProcesses(file, pids) {
  writeFileSync(file, JSON.stringify(pids.map(pid => ({ pid, start: startOf(pid) }))))
}

/** Ends the processes that an earlier start has noted and that are still there, because it was killed. Says how many there were. */
export async function endLeftovers(file) {
  let noted = []
  try {
    noted = JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    // There is none, or a crash has cut it short: then nothing is known.
  }
  const left = () => noted.filter(({ pid, start }) => start !== null && startOf(pid) === start)
  const send = signal => {
    for (const { pid } of left()) {
      try {
        process.kill(pid, signal)
      } catch {
        // It ended by itself meanwhile.
      }
    }
  }
  const count = left().length
  send('SIGTERM')
  for (let attempt = 0; attempt < 100 && left().length > 0; attempt += 1) await new Promise(resolve => setTimeout(resolve, 100))
  send('SIGKILL')
  rmSync(file, { force: true })
  return count
}

async function answering(url) {
  for (let attempt = 0; attempt < 300; attempt += 1) {
    if (await fetch(url).then(response => response.ok, () => false)) return
    await new Promise(resolve => setTimeout(resolve, 100))
  }
  throw new Error('The server does not answer; see var/log.')
}

/** Asks a process to end, and ends its whole group when it does not within five seconds. */
function end(child) {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve()
  return new Promise(resolve => {
    const force = setTimeout(() => { try { process.kill(-child.pid, 'SIGKILL') } catch { /* ended meanwhile */ } }, 5_000)
    child.once('exit', () => {
      clearTimeout(force)
      resolve()
    })
    child.kill('SIGTERM')
  })
}
