import { execFile, spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { chmod, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'

const start = join(process.cwd(), 'bin/start')
let folder = ''

test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'quill-start-'))
  // The database has a user of its own.
  await chmod(folder, 0o755)
})
test.afterAll(() => rm(folder, { recursive: true, force: true }))

const environment = (more: Record<string, string> = {}): NodeJS.ProcessEnv => ({ ...process.env, QUILL_VAR: folder, QUILL_PORT: '4480', ...more })

/** Starts everything and waits until it answers. Gives what it says on standard error, and the step that ends it. */
async function started(): Promise<{ readonly said: () => string, readonly stop: () => Promise<void>, readonly kill: () => void }> {
  const child = spawn(start, ['--empty'], { env: environment(), stdio: ['ignore', 'pipe', 'pipe'], detached: true })
  let [out, said] = ['', '']
  child.stdout.on('data', (piece: Buffer) => { out += piece.toString() })
  child.stderr.on('data', (piece: Buffer) => { said += piece.toString() })
  const ended = new Promise<void>(resolve => child.once('exit', () => resolve()))
  await expect.poll(() => out, { message: said, timeout: 60_000 }).toContain('http://127.0.0.1:')
  return { said: () => said, stop: async () => { child.kill('SIGTERM'); await ended }, kill: () => { child.kill('SIGKILL') } }
}

/** Supervisor, server and worker, in this order. */
const processes = async (): Promise<number[]> => (JSON.parse(await readFile(join(folder, 'processes.json'), 'utf8')) as { pid: number }[]).map(({ pid }) => pid)
const isThere = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

test('what was started ends with its supervisor, and that with the start command', async () => {
  test.setTimeout(180_000)
  const first = await started()
  const [supervisor, ...others] = await processes()
  process.kill(supervisor!, 'SIGKILL')
  await expect.poll(() => others.filter(isThere), { timeout: 15_000 }).toEqual([])
  await first.stop()

  const second = await started()
  const all = await processes()
  second.kill()
  await expect.poll(() => all.filter(isThere), { timeout: 15_000 }).toEqual([])
})

test('what hangs and so outlives its supervisor is ended by the next start; data and logs are for their owner only', async () => {
  test.setTimeout(180_000)
  const first = await started()
  const [supervisor, server, worker] = await processes()
  process.kill(server!, 'SIGSTOP')
  process.kill(supervisor!, 'SIGKILL')
  await expect.poll(() => isThere(worker!), { timeout: 15_000 }).toBe(false)
  expect(isThere(server!)).toBe(true)
  await first.stop()
  // A crash has emptied this file, too.
  await writeFile(join(folder, 'pg/port'), '')

  const second = await started()
  expect(second.said()).toContain('One process of an earlier start, which was killed, was still there, and was ended.')
  expect(isThere(server!)).toBe(false)
  const modes = await Promise.all(['data', 'log', 'log/server.log', 'log/worker.log'].map(async name => ((await stat(join(folder, name))).mode & 0o777).toString(8)))
  expect(modes).toEqual(['700', '700', '600', '600'])
  await second.stop()
  expect(existsSync(join(folder, 'processes.json'))).toBe(false)
})

for (const [port, says] of [['abc', 'QUILL_PORT is “abc”'], ['0', 'QUILL_PORT is “0”'], ['70000', 'QUILL_PORT is “70000”']] as const) {
  test(`QUILL_PORT=${port} is refused in plain words`, async () => {
    const { code, said } = await new Promise<{ code: unknown, said: string }>(resolve => {
      execFile(start, ['--empty'], { env: environment({ QUILL_PORT: port }) }, (error, _, stderr) => resolve({ code: error?.code, said: stderr }))
    })
    expect([code, said]).toEqual([1, `${says}. Give a port from 1 to 65535, such as QUILL_PORT=4180.\n`])
  })
}
