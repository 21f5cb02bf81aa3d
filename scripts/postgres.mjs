// A PostgreSQL cluster of the project's own: on loopback, on a port of its own, with its data under var/.
import { spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { chownSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { root, variable } from './paths.mjs'
import { startOf } from './processes.mjs'

const user = 'quill'
const isRoot = process.getuid() === 0

function binaries() {
  const base = '/usr/lib/postgresql'
  const versions = existsSync(base) ? readdirSync(base).filter(name => existsSync(join(base, name, 'bin/initdb'))).sort((a, b) => Number(b) - Number(a)) : []
  if (versions.length === 0) throw new Error('PostgreSQL is not installed. Run bin/start or bin/test, which install it.')
  return join(base, versions[0], 'bin')
}

/** Runs a program of PostgreSQL's; as root through its own user, because it refuses to run as root. */
function run(program, parameters, options = {}) {
  const path = join(binaries(), program)
  const [command, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', path, ...parameters] : [path, ...parameters]
  // The new session keeps Ctrl-C in the terminal from reaching the database before its clients have ended.
  return spawnSync('setsid', ['-w', command, ...rest], { cwd: '/', encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'], ...options })
}

function must(result, what) {
  if (result.status !== 0) throw new Error(`${what} failed: ${(result.stderr || result.stdout || String(result.error ?? '')).trim()}`)
}

/** Whether PostgreSQL's user can reach a folder: not below a home that only root may enter. */
function reachable(folder) {
  return !isRoot || spawnSync('runuser', ['-u', 'postgres', '--', 'test', '-x', folder], { cwd: '/' }).status === 0
}

const lastPort = 65_535

/** Whether a value is a port that a program can ask for. */
export function isPort(value) {
  return Number.isInteger(value) && value >= 1 && value <= lastPort
}

/** The first free port on loopback, from one on. Throws when there is none. */
export async function freePort(from) {
  for (let port = from; port <= lastPort; port += 1) {
    const isFree = await new Promise(resolve => {
      const server = createServer()
      server.once('error', () => resolve(false))
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
    })
    if (isFree) return port
  }
  throw new Error(`No port from ${from} on is free, or may be used. Choose a lower one.`)
}

/** Gives a file or folder to PostgreSQL's user, where that is another one. */
function handOver(path) {
  if (!isRoot) return
  const id = kind => Number(spawnSync('id', [kind, 'postgres'], { encoding: 'utf8' }).stdout.trim())
  chownSync(path, id('-u'), id('-g'))
}

/**
 * Starts a cluster in `folder`, making it when there is none. `lasting` clusters ask for a password; others are for tests. One that
 * is not `durable` loses nothing when it is killed, only when the machine is.
 */
async function startCluster(folder, { lasting, durable = lasting, firstPort, log, passwordFile }) {
  mkdirSync(folder, { recursive: true })
  handOver(folder)
  const data = join(folder, 'data')
  const password = lasting ? ensurePassword(passwordFile) : ''
  if (!existsSync(join(data, 'PG_VERSION'))) {
    rmSync(data, { recursive: true, force: true })
    const secret = join(folder, 'initial')
    writeFileSync(secret, password, { mode: 0o600 })
    handOver(secret)
    try {
      must(run('initdb', ['-D', data, '-U', user, '-E', 'UTF8', '--locale=C.UTF-8', '--no-instructions',
        ...(lasting ? ['--auth=scram-sha-256', `--pwfile=${secret}`] : ['--auth=trust', '--no-sync'])]), 'Making the database')
    } finally {
      rmSync(secret, { force: true })
    }
  }
  const portFile = join(folder, 'port')
  const isReady = port => run('pg_isready', ['-q', '-h', '127.0.0.1', '-p', String(port)]).status === 0
  const isRunning = () => run('pg_ctl', ['status', '-D', data]).status === 0
  const start = port => {
    // Left by a cluster that was killed; its process is gone, or it would be running.
    if (!isRunning()) rmSync(join(data, 'postmaster.pid'), { force: true })
    const settings = {
      port, listen_addresses: '127.0.0.1', unix_socket_directories: '', max_connections: 100, log_min_messages: 'warning',
      ...(durable ? {} : { fsync: 'off', full_page_writes: 'off' }),
    }
    const options = Object.entries(settings).map(([name, value]) => `-c ${name}='${value}'`).join(' ')
    must(run('pg_ctl', ['start', '-w', '-t', '60', '-s', '-D', data, '-l', log, '-o', options], { stdio: ['ignore', 'ignore', 'ignore'] }), 'Starting the database (see its log)')
  }
  // Empty after a crash, or changed by hand: the first one will do.
  const noted = existsSync(portFile) ? Number(readFileSync(portFile, 'utf8')) : firstPort
  let port = isPort(noted) ? noted : firstPort
  if (!isRunning() || !isReady(port)) {
    port = await freePort(port)
    start(port)
    writeFileSync(portFile, String(port))
  }
  /** Of its first process. */
  const pid = () => Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0])
  return {
    url: name => `postgres://${user}${password === '' ? '' : `:${password}`}@127.0.0.1:${port}/${name}`,
    pid,
    stop: () => { run('pg_ctl', ['stop', '-D', data, '-m', 'fast', '-w', '-s'], { stdio: 'ignore' }) },
    /** Starts the cluster again when it has ended; says whether it had. */
    revive: () => {
      if (existsSync(join(data, 'postmaster.pid')) && startOf(pid()) !== null) return false
      start(port)
      return true
    },
  }
}

function ensurePassword(file) {
  if (!existsSync(file) || readFileSync(file, 'utf8').trim() === '') writeFileSync(file, randomBytes(24).toString('hex'), { mode: 0o600 })
  return readFileSync(file, 'utf8').trim()
}

/** The cluster of bin/start. */
export async function startLastingCluster() {
  mkdirSync(variable, { recursive: true })
  const owner = process.env.QUILL_VAR ?? root
  const folder = reachable(owner) ? join(variable, 'pg') : join('/var/lib/orator-quill', createHash('sha256').update(owner).digest('hex').slice(0, 12))
  return startCluster(folder, { lasting: true, firstPort: 5470, log: join(folder, 'log'), passwordFile: join(variable, 'database-password') })
}

/** A fresh cluster for one run of tests or benchmarks, removed when it is stopped. */
export async function startTestCluster({ durable = false } = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'orator-quill-test-'))
  const cluster = await startCluster(folder, { lasting: false, durable, firstPort: 5570, log: join(folder, 'log') })
  return {
    ...cluster,
    stop: () => {
      cluster.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
