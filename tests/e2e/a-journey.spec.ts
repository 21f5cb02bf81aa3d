import { execFileSync } from 'node:child_process'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { checksumsName } from '#core/delivery/lists'
import type { Manifest } from '#core/delivery/manifest'
import { openArchive } from '../../intake/archive'
import { decode, probe } from '../support/audio'
import { address, markdown } from './support'

async function drop(page: Page, name: string, content: string): Promise<void> {
  const transfer = await page.evaluateHandle(([fileName, text]) => {
    const data = new DataTransfer()
    data.items.add(new File([text!], fileName!, { type: 'text/markdown' }))
    return data
  }, [name, content])
  for (const kind of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent('body', kind, { dataTransfer: transfer })
}

async function unzip(path: string, folder: string): Promise<string[]> {
  await mkdir(folder, { recursive: true })
  const archive = await openArchive(await readFile(path), path)
  for (const name of archive.names) await writeFile(join(folder, name), (await archive.bytes(name))!)
  return [...archive.names]
}

test('an empty shelf says what to do, and the sample document is one click away', async ({ page }) => {
  await page.goto(address())
  await expect(page.getByText('Nothing on the shelf yet.')).toBeVisible()
  await page.getByRole('button', { name: 'a handbook' }).click()
  await expect(page.getByRole('button', { name: 'Accept 10 parts' })).toBeVisible()
  await expect(page.getByRole('combobox', { name: 'Language' })).toHaveValue('British English (en-GB)')
})

test('a reading can be stopped; what is made stays', async ({ page }) => {
  await page.goto(address())
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring in a document' }).click()
  await (await chooser).setFiles({ name: 'Stopped.md', mimeType: 'text/markdown', buffer: Buffer.from(markdown('Stopped', 120)) })
  await page.getByRole('button', { name: 'Accept 120 parts' }).click()
  await page.getByRole('link', { name: 'Reading' }).click()
  await page.getByRole('button', { name: /^Read 600 sentences/u }).click()
  await expect(page.locator('.figures')).toContainText(/[1-9]\d* of 600 sentences/u)
  await page.getByRole('main').getByRole('button', { name: 'Stop' }).click()
  const ended = page.getByText(/The last reading was stopped: \d+ of 600 sentences made/u)
  await expect(ended).toBeVisible()
  // The utterances in flight are still made; then what is made and what is left add up.
  const figure = async (text: Promise<string>): Promise<number> => Number(/\d+/u.exec(await text)![0])
  await expect.poll(async () => {
    const made = await figure(ended.innerText())
    const left = await figure(page.getByRole('heading', { name: /sentences to read/u }).innerText())
    return made > 0 && made < 600 ? made + left : 0
  }).toBe(600)
})

test('from a dropped document to a ZIP of numbered files that play in order', async ({ page }, info) => {
  await page.goto(address())
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
  await drop(page, 'journey.md', markdown('Journey', 11))

  await expect(page.getByRole('button', { name: 'Accept 11 parts' })).toBeVisible()
  await expect(page.getByText('recognised from the text')).toBeVisible()
  await page.getByLabel('Author').fill('T. Orrery')
  await page.getByRole('button', { name: 'Accept 11 parts' }).click()
  await expect(page.locator('.passage-title')).toHaveText('Journey chapter 1')
  const production = page.url().replace(/\/script.*/u, '')

  await page.getByRole('link', { name: /^Reading/u }).click()
  await expect(page.getByRole('heading', { name: '55 sentences to read' })).toBeVisible()
  await page.getByRole('button', { name: /^Read 55 sentences/u }).click()
  await expect(page.getByRole('heading', { name: 'All read' })).toBeVisible({ timeout: 60_000 })

  await page.goto(`${production}/delivery`)
  await expect(page.getByRole('cell', { name: '03-journey-chapter-3.mp3' })).toBeVisible()
  await page.getByRole('button', { name: 'Make 11 files' }).click()
  const link = page.getByRole('link', { name: /Download 11 files as ZIP/u })
  await expect(link).toBeVisible({ timeout: 60_000 })

  const length = await page.evaluate(async href => (await fetch(href)).headers.get('content-length'), await link.getAttribute('href') as string)
  const downloading = page.waitForEvent('download')
  await link.click()
  const path = join(info.outputDir, 'package.zip')
  await mkdir(dirname(path), { recursive: true })
  await (await downloading).saveAs(path)
  expect((await readFile(path)).length).toBe(Number(length))

  const folder = join(info.outputDir, 'files')
  const names = await unzip(path, folder)
  const manifest = JSON.parse(await readFile(join(folder, 'manifest.json'), 'utf8')) as Manifest
  expect(names).toEqual([...manifest.files.map(file => file.name), 'SHA256SUMS', 'manifest.json', 'playlist.cue', 'playlist.m3u8'])
  expect(manifest.files.map(file => file.name).sort()).toEqual(manifest.files.map(file => file.name))
  execFileSync('sha256sum', ['--check', '--strict', '--quiet', checksumsName], { cwd: folder })
  expect(manifest).toMatchObject({ version: 1, title: 'Journey', language: 'en' })
  manifest.files.forEach((file, index) => {
    const number = index + 1
    expect(file).toMatchObject({ number, title: `Journey chapter ${number}`, name: `${String(number).padStart(2, '0')}-journey-chapter-${number}.mp3` })
    const { streams, format } = probe(join(folder, file.name))
    expect(streams[0]).toMatchObject({ codec_name: 'mp3', sample_rate: '44100', channels: 1, bit_rate: '192000' })
    expect(format.tags).toMatchObject({ title: file.title, track: `${number}/11`, album: 'Journey', artist: 'T. Orrery' })
    expect(Math.abs(decode(join(folder, file.name)).length / 44.1 - file.durationMs)).toBeLessThan(5)
  })

  // The list of first steps has ticked off what was done, leads on, and is put away.
  await page.goto(address())
  const steps = page.getByRole('region', { name: 'First steps' })
  await expect(steps.locator('li.done')).toHaveText([/^Bring in a document/u, /^Read it/u, /^Make the files/u, /^Download them/u])
  await steps.getByRole('link', { name: 'Hear it' }).click()
  await expect(page.locator('.ProseMirror')).toBeVisible()
  await page.getByRole('button', { name: 'Play' }).click()
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await page.goto(address())
  await page.getByRole('region', { name: 'All first steps are done' }).getByRole('button', { name: 'Put away' }).click()
  await page.reload()
  await expect(page.getByRole('button', { name: 'First steps' })).toBeVisible()
  await expect(page.locator('.guide')).toHaveCount(0)
})
