import { execFileSync } from 'node:child_process'
import { mkdtemp, readFile, readdir, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { expect, test, type Page } from '@playwright/test'
import type { Manifest } from '#core/delivery/manifest'
import type { DeliveryDesk, ReadingDesk } from '#shared/api'
import { address, bringIn, markdown, passage, readAll, saved, typeInto } from './support'

const recoveryMs = 75_000

/** Processes of the server under test whose command holds this text. */
async function processes(command: string): Promise<number[]> {
  const found: number[] = []
  for (const name of await readdir('/proc')) {
    if (!/^\d+$/u.test(name)) continue
    const read = (file: string): Promise<string> => readFile(`/proc/${name}/${file}`, 'utf8').catch(() => '')
    if ((await read('cmdline')).includes(command) && (await read('environ')).includes(`QUILL_DATA=${process.env['QUILL_TEST_DATA']}`)) found.push(Number(name))
  }
  return found
}

/** Kills what matches, as soon as there is something. Gives how many. */
async function kill(command: string): Promise<number> {
  for (let attempt = 0; attempt < 200; attempt += 1) {
    const found = await processes(command)
    for (const pid of found) process.kill(pid, 'SIGKILL')
    if (found.length > 0) return found.length
    await sleep(10)
  }
  throw new Error(`No process to kill: ${command}`)
}

async function get<T>(page: Page, path: string): Promise<T> {
  return await (await page.request.get(`${address()}${path}`)).json() as T
}

async function startReading(page: Page, production: string): Promise<string> {
  const id = production.split('/').at(-1)!
  await page.request.post(`${address()}/api/editions/${id}/readings`)
  await expect.poll(async () => (await get<ReadingDesk>(page, `/api/editions/${id}/reading`)).reading?.made, { intervals: [50] }).toBeGreaterThan(20)
  return id
}

async function finished(page: Page, id: string, total: number): Promise<void> {
  await expect.poll(async () => (await get<ReadingDesk>(page, `/api/editions/${id}/reading`).catch(() => null))?.reading, { timeout: recoveryMs })
    .toMatchObject({ state: 'done', made: total, faults: 0 })
}

/** Digests of the newest delivery's files, and of an undisturbed run of the same document by the command line. */
async function compare(page: Page, id: string, name: string, chapters: number): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'quill kill '))
  await writeFile(join(folder, `${name}.md`), markdown(name, chapters))
  execFileSync(join(process.cwd(), 'bin/quill'), ['read', join(folder, `${name}.md`), '--out', join(folder, 'out'), '--cache', join(folder, 'cache')])
  const undisturbed = JSON.parse(await readFile(join(folder, 'out/manifest.json'), 'utf8')) as Manifest
  const { deliveries } = await get<DeliveryDesk>(page, `/api/editions/${id}/run-sheet`)
  const data = join(process.env['QUILL_TEST_DATA']!, 'deliveries', deliveries[0]!.id)
  expect(JSON.parse(await readFile(join(data, 'manifest.json'), 'utf8'))).toEqual(undisturbed)
  expect((await readdir(data)).sort()).toEqual([...undisturbed.files.map(file => file.name), 'manifest.json'].sort())
}

async function deliver(page: Page, id: string): Promise<void> {
  await page.request.post(`${address()}/api/editions/${id}/deliveries`)
}

async function delivered(page: Page, id: string): Promise<void> {
  await expect.poll(async () => (await get<DeliveryDesk>(page, `/api/editions/${id}/run-sheet`)).deliveries[0]?.state, { timeout: recoveryMs }).toBe('done')
}

test('a worker killed in the middle of a reading is started again, and the audio is that of an undisturbed run', async ({ page }) => {
  test.setTimeout(180_000)
  const id = await startReading(page, await bringIn(page, 'Worker', 40))
  await kill('dist/worker.mjs')
  await finished(page, id, 200)
  await deliver(page, id)
  await delivered(page, id)
  await compare(page, id, 'Worker', 40)
})

test('engine children killed in the middle of a reading are replaced', async ({ page }) => {
  const id = await startReading(page, await bringIn(page, 'Child', 40))
  await kill('dist/espeak-child.mjs')
  await finished(page, id, 200)
})

test('an encoder, then the worker, killed in the middle of a delivery: the files are those of an undisturbed run', async ({ page }) => {
  test.setTimeout(240_000)
  const production = await bringIn(page, 'Encoder', 30)
  await readAll(production)
  const id = production.split('/').at(-1)!
  await deliver(page, id)
  await kill('libmp3lame')
  await kill('dist/worker.mjs')
  await delivered(page, id)
  await compare(page, id, 'Encoder', 30)
})

test('a server killed while a text is edited: the edit is kept in the page and saved when it is back', async ({ page }) => {
  const production = await bringIn(page, 'Server')
  await kill('.output/server/index.mjs')
  await typeInto(page, 'Here is a second one', ' Typed meanwhile.')
  await saved(page)
  await page.goto(`${production}/script`)
  await expect(passage(page, 'Typed meanwhile.')).toBeVisible()
})
