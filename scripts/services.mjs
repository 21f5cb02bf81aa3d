// Starts the web server and the worker, and ends them.
import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, openSync } from 'node:fs'
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

/**
 * Starts web server and worker; resolves when the server answers. `onEnd` hears of one that ends by itself.
 * @param {{ environment: Record<string, string>, port: number, logFolder: string, onEnd?: (name: string, how: number | string | null) => void }} options
 */
export async function startServices({ environment, port, logFolder, onEnd }) {
  mkdirSync(logFolder, { recursive: true })
  const start = (name, file, extra) => {
    const log = openSync(join(logFolder, `${name}.log`), 'a')
    const child = spawn(process.execPath, [file], {
      cwd: root, env: { ...process.env, ...environment, ...extra }, stdio: ['ignore', log, log], detached: true,
    })
    child.once('exit', (code, signal) => onEnd?.(name, code ?? signal))
    return child
  }
  const server = start('server', join(root, '.output/server/index.mjs'), {
    HOST: '127.0.0.1', NITRO_HOST: '127.0.0.1', PORT: String(port), NITRO_PORT: String(port), NITRO_SHUTDOWN_TIMEOUT: '1000',
  })
  const worker = start('worker', join(programs, 'worker.mjs'), {})
  const children = [server, worker]
  const stop = async () => {
    await Promise.all(children.map(child => end(child)))
  }
  const address = `http://127.0.0.1:${port}`
  try {
    await answering(`${address}/api/health`, children)
  } catch (error) {
    await stop()
    throw error
  }
  return { address, server, worker, stop }
}

async function answering(url, children) {
  for (let attempt = 0; attempt < 300; attempt += 1) {
    if (children.some(child => child.exitCode !== null)) throw new Error('The server or the worker ended while it was starting; see var/log.')
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
