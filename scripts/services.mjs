// Starts the web server and the worker, and ends them.
import { spawn, spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { closeSync, existsSync, mkdirSync, openSync, renameSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { programs, root } from './paths.mjs'

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

/** A service that ends this often within a minute is not started again. */
const mostRestarts = 5

/**
 * Starts web server and worker and starts again what ends by itself; resolves when the server answers. `onEnd`
 * hears of one that ended, and whether it was given up.
 * @param {{ environment: Record<string, string>, port: number, logFolder: string, onEnd?: (name: string, how: number | string | null, givenUp: boolean) => void }} options
 */
export async function startServices({ environment, port, logFolder, onEnd }) {
  mkdirSync(logFolder, { recursive: true })
  const children = new Map()
  let ending = false
  const start = (name, file, extra, again = {}) => {
    const log = openLog(join(logFolder, `${name}.log`))
    const child = spawn(process.execPath, [file], {
      cwd: root, env: { ...process.env, ...environment, QUILL_LOGS: logFolder, ...extra, ...(children.has(name) ? again : {}) }, stdio: ['ignore', log, log], detached: true,
    })
    closeSync(log)
    const ends = children.get(name)?.ends ?? []
    children.set(name, { child, ends })
    child.once('exit', (code, signal) => {
      if (ending) return
      const now = Date.now()
      ends.push(now)
      const recent = ends.filter(at => now - at < 60_000).length
      const givenUp = recent > mostRestarts
      onEnd?.(name, code ?? signal, givenUp)
      // Longer every time: what it needs may be starting, such as the database.
      if (!givenUp) setTimeout(() => { if (!ending) start(name, file, extra, again) }, 100 * 2 ** recent)
    })
  }
  start('server', join(root, '.output/server/index.mjs'), {
    HOST: '127.0.0.1', NITRO_HOST: '127.0.0.1', PORT: String(port), NITRO_PORT: String(port), NITRO_SHUTDOWN_TIMEOUT: '1000',
  })
  start('worker', join(programs, 'worker.mjs'), { QUILL_WORKER: randomUUID() }, { QUILL_RESUME: '1' })
  const stop = async () => {
    ending = true
    await Promise.all([...children.values()].map(({ child }) => end(child)))
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

/** Opens a log to add to. One that has grown long becomes the one before it first. */
function openLog(path) {
  if (existsSync(path) && statSync(path).size > longestLogBytes) renameSync(path, `${path}.1`)
  return openSync(path, 'a')
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
