import { execFile } from 'node:child_process'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { expect, test } from '@playwright/test'
import type { HealthReport } from '#core/health'
import { address, bringIn, makeProduction, markdown, readAll } from './support'

const run = promisify(execFile)

test('the health page shows what the work needs, and the command line the same', async ({ page }) => {
  await page.goto(address())
  await page.getByRole('link', { name: 'Health' }).click()
  await expect(page.getByRole('status')).toHaveText('All is in order')
  for (const [what, found] of [['Speech engine “Embedded engine”', /espeak-ng \d/u], ['Speech engine “Small English engine”', /flite \d/u], ['Speech engine “Speech service”', /no account is set up/u], ['Encoder', /ffmpeg \d/u], ['Database', /PostgreSQL \d/u], ['Free space', /GB/u], ['Workers', /^Workers1/u], ['Queue', /waiting/u]] as const) {
    await expect(page.getByRole('row', { name: what })).toHaveText(found)
  }
  const { stdout } = await run(join(process.cwd(), 'bin/quill'), ['doctor', '--json'], { env: { ...process.env, QUILL_ADDRESS: address() } })
  const { findings } = JSON.parse(stdout) as HealthReport
  expect(findings.map(finding => `${finding.subject} ${finding.state}`)).toEqual(expect.arrayContaining(['Speech engine “Embedded engine” good', 'Speech engine “Small English engine” good', 'Server good', 'Database good', 'Workers good']))
})

test('a server that does not answer makes the doctor end with 1 and say what to do', async () => {
  const failed = await run(join(process.cwd(), 'bin/quill'), ['doctor'], { env: { ...process.env, QUILL_ADDRESS: 'http://127.0.0.1:1' } }).catch((error: { code: number, stdout: string }) => error)
  expect(failed).toMatchObject({ code: 1, stdout: expect.stringMatching(/BAD +Server +http:\/\/127\.0\.0\.1:1 does not answer\n[^]*Server: Run bin\/start again/u) })
})

for (const [name, program] of [['server', '.output/server/index.mjs'], ['worker', 'dist/worker.mjs']] as const) {
  test(`a ${name} that finds no database ends and says what to do`, async () => {
    const environment = { ...process.env, QUILL_DATABASE_URL: 'postgres://quill@127.0.0.1:1/none', QUILL_DATA: '/tmp', QUILL_PROGRAMS: join(process.cwd(), 'dist'), PORT: '0' }
    const failed = await run(process.execPath, [join(process.cwd(), program)], { env: environment }).catch((error: { code: number, stderr: string }) => error)
    expect(failed).toMatchObject({ code: 1, stderr: expect.stringContaining(`The ${name} cannot start: the database at 127.0.0.1:1 does not answer. Start it`) })
  })
}

test('a production that is removed is put back, or goes for good', async ({ page }) => {
  await makeProduction('Taken away', markdown('Taken away'))
  await page.goto(address())
  const entry = page.getByRole('link', { name: /^Taken away/u })
  const removed = page.getByRole('region', { name: 'Removed' })
  const remove = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Remove Taken away', exact: true }).click()
    await expect(page.getByRole('dialog')).toContainText('For 30 days it can be put back')
    await page.getByRole('button', { name: 'Remove production' }).click()
    await expect(entry).toHaveCount(0)
    await expect(removed).toContainText('Taken away')
  }
  await remove()
  await removed.getByRole('button', { name: 'Put back Taken away' }).click()
  await expect(entry).toBeVisible()
  await entry.click()
  await expect(page.locator('.ProseMirror')).toContainText('Taken away')
  await page.goto(address())
  await remove()
  await removed.getByRole('button', { name: 'Remove for good: Taken away' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove for good' }).click()
  await expect(removed.getByText('Taken away')).toHaveCount(0)
})

test('space is freed after a look at what goes', async ({ page }) => {
  const production = await bringIn(page, 'Storage')
  await readAll(production)
  const id = production.split('/').at(-1)!
  await page.request.put(`${address()}/api/editions/${id}/casting`, { data: { voice: 'en-gb', wordsPerMinute: 171, pitchSemitones: 0, gainDb: -3 } })
  await page.goto(`${address()}/storage`)
  const takes = page.getByRole('row', { name: /^Takes/u })
  await expect(takes).toContainText('that no script needs now')
  await takes.getByRole('button', { name: /^Free/u }).click()
  await expect(page.getByRole('dialog')).toContainText('This cannot be undone')
  await page.getByRole('button', { name: 'Keep all' }).click()
  await takes.getByRole('button', { name: /^Free/u }).click()
  await page.getByRole('dialog').getByRole('button', { name: /^Free/u }).click()
  await expect(page.getByRole('status').filter({ hasText: 'freed' })).toBeVisible()
  await expect(takes).toContainText('nothing')
})
