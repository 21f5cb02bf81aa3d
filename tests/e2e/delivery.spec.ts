import { execFileSync } from 'node:child_process'
import { writeFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import type { Desk, Page as ScriptPage } from '#shared/api'
import type { DeliveryDesk, DeliveryReportView } from '#shared/delivery'
import { address, ask, bringIn, chooseByKeys, passage, readAll, removeProductionOf, soundRate, wavFile } from './support'

const chooseProfile = (page: Page, name: string): Promise<void> => chooseByKeys(page, 'Files for', name)

test('files are made to the profile that is chosen, measured, and judged by it', async ({ page }) => {
  const production = await bringIn(page, 'Levels', 2)
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await expect(page.getByText('RMS −20 dB, to within 0.5')).toBeVisible()
  await page.getByRole('button', { name: 'Make 2 files' }).click()
  const sheet = page.getByRole('table').first()
  await expect(sheet.getByRole('cell', { name: 'passes' })).toHaveCount(2, { timeout: 60_000 })
  await expect(sheet.getByRole('cell', { name: 'delivered' })).toHaveCount(2)

  // While files are made the profile stays as it is.
  await expect(page.getByRole('link', { name: /Download 2 files as ZIP/u })).toBeVisible()

  await chooseProfile(page, 'Course clips')
  await expect(page.getByText('Loudness −19 LUFS, to within 0.5')).toBeVisible()
  await expect(sheet.getByRole('cell', { name: 'stale' })).toHaveCount(2)
  await page.getByRole('button', { name: /^Make 2 files/u }).click()
  await expect(sheet.getByRole('cell', { name: 'delivered' })).toHaveCount(2, { timeout: 60_000 })

  const { rows, deliveries, profile } = await ask<DeliveryDesk>(`editions/${production.split('/').at(-1)}/run-sheet`)
  expect([profile, deliveries.length]).toEqual(['course', 2])
  for (const { levels, findings } of rows) {
    expect(findings).toEqual([])
    expect(Math.abs(levels!.integratedDb + 19)).toBeLessThanOrEqual(0.5)
  }
  await expect(page.getByRole('table').nth(1).getByRole('row').nth(1)).toContainText('0.50 / 0.5')
})

test('the script is divided into files by a rule, by lengths, and by hand, with the keyboard', async ({ page }) => {
  const production = await bringIn(page, 'Division')
  const id = production.split('/').at(-1)!
  await readAll(production)
  await page.goto(`${production}/delivery`)
  const rows = page.locator('.run-sheet tbody tr:not(.passages)')
  const titles = (): Promise<string[]> => rows.locator('[data-label="Title"]').allTextContents()
  await expect(rows).toHaveCount(3)

  // By a rule, and back.
  await chooseByKeys(page, 'One file for each', 'Passage')
  await expect(rows).toHaveCount(12)
  await page.getByRole('button', { name: 'Divide as the profile does' }).press('Enter')
  await expect(rows).toHaveCount(3)

  // Chapters, but none longer than twelve seconds: 1a, 1b.
  await page.getByRole('combobox', { name: 'At most, min' }).fill('0.2')
  await page.keyboard.press('Enter')
  await expect(rows.first().locator('[data-label="No"]')).toHaveText('01a')
  expect((await titles())[0]).toMatch(/^Division chapter 1 \(1\/\d\)$/u)
  await page.getByRole('button', { name: 'Divide as the profile does' }).press('Enter')
  await expect(rows).toHaveCount(3)

  // By hand: joined with the one before, and taken apart elsewhere.
  await page.getByRole('button', { name: 'Join Division chapter 2 with the file before' }).press('Enter')
  await expect(rows).toHaveCount(2)
  expect(await rows.first().locator('[data-label="Parts"]').textContent()).toBe('1–2')
  await page.getByRole('button', { name: 'Divide Division chapter 1' }).press('Enter')
  await page.locator('.passages').getByRole('button', { name: /^Division item 2/u }).press('Enter')
  await expect(rows).toHaveCount(3)
  await expect(page.getByText('2 places set by hand.')).toBeVisible()

  // By dragging a file onto the one above, too. What is open between them moves them while it is loaded.
  await page.getByRole('button', { name: 'Divide Division chapter 1', exact: true }).press('Enter')
  await expect(page.locator('.passages')).toHaveCount(0)
  await rows.nth(1).dragTo(rows.first())
  await expect(rows).toHaveCount(2)

  // What is divided is made, in the order of the script, and nothing twice.
  await page.getByRole('button', { name: 'Make 2 files' }).press('Enter')
  await expect(rows.getByRole('cell', { name: 'delivered', exact: true })).toHaveCount(2, { timeout: 60_000 })
  const { deliveries: [delivery] } = await ask<DeliveryDesk>(`editions/${id}/run-sheet`)
  expect(delivery!.files.map(file => file.name)).toEqual(['01-division-chapter-1.mp3', '02-division-chapter-3.mp3'])
  const csv = await (await fetch(`${address()}/api/editions/${id}/run-sheet/table`)).text()
  expect(csv.split('\r\n').slice(0, 2)).toEqual(['number,file,title,parts,minutes,seconds,length is,bytes,state,verdict', expect.stringMatching(/^01,01-division-chapter-1\.mp3,Division chapter 1,1–2,0:\d\d,\d+\.\d{3},exact,\d+,delivered,passes$/u)])
})

test('a file begins at a passage that is marked on the script', async ({ page }) => {
  const production = await bringIn(page, 'Marks', 1)
  await passage(page, 'Marks item 1').click()
  await page.getByRole('button', { name: 'Begin a file here' }).click()
  await expect(passage(page, 'Marks item 1').locator('.file-tag')).toHaveAttribute('data-file', 'A file begins')
  await expect(page.getByText('A file begins here, whatever the run sheet says.')).toBeVisible()
  await page.goto(`${production}/delivery`)
  await expect(page.locator('.run-sheet [data-label="No"]')).toHaveText(['01', '02'])
  await page.getByRole('button', { name: 'Take it away' }).click()
  await expect(page.locator('.run-sheet [data-label="No"]')).toHaveText(['01'])
})

test('a book is one file with chapters, tags, and a cover', async ({ page }, testInfo) => {
  const production = await bringIn(page, 'One file', 2)
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await chooseProfile(page, 'One-file book')
  await expect(page.getByText('AAC in M4B, 64 kbit/s, 44.1 kHz, mono')).toBeVisible()

  await page.getByText('Tags and cover').click()
  await page.getByLabel('Narrator').fill('Nora Vale')
  await page.getByLabel('Year').fill('next')
  await page.getByLabel('Year').press('Tab')
  await expect(page.getByText('Write four figures, e.g. 2031.')).toBeVisible()
  await page.getByLabel('Year').fill('2031')
  await page.getByLabel('Year').press('Enter')
  // A file that is no picture changes nothing, and says so.
  await page.getByLabel('Picture for the cover').setInputFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') })
  await expect(page.getByText('notes.jpg is neither a JPEG nor a PNG picture.')).toBeVisible()
  const picture = execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=600x800', '-frames:v', '1', '-f', 'image2pipe', '-c:v', 'png', 'pipe:1'])
  await page.getByLabel('Picture for the cover').setInputFiles({ name: 'cover.png', mimeType: 'image/png', buffer: picture })
  await expect(page.getByRole('img', { name: 'The cover' })).toBeVisible()
  await expect(page.getByText('It is no square')).toBeVisible()
  await expect(page.getByText(/^600 × 800/u)).toBeVisible()

  await page.reload()
  await page.getByText('Tags and cover').click()
  await expect(page.getByLabel('Narrator')).toHaveValue('Nora Vale')
  await page.getByRole('button', { name: 'Make 1 file' }).click()
  await expect(page.getByRole('table').first().getByRole('cell', { name: 'passes' })).toHaveCount(1, { timeout: 60_000 })
  const link = page.getByRole('link', { name: '01-one-file.m4b' })
  const answer = await page.request.get(new URL(await link.getAttribute('href') ?? '', address()).href)
  expect(answer.headers()['content-type']).toBe('audio/mp4')
  const path = testInfo.outputPath('book.m4b')
  await writeFile(path, await answer.body())
  const { streams, format, chapters } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-show_chapters', '-of', 'json', path], { encoding: 'utf8' })) as {
    streams: { codec_name: string }[], format: { tags: Record<string, string> }, chapters: unknown[]
  }
  expect(streams.map(stream => stream.codec_name)).toEqual(expect.arrayContaining(['aac', 'png']))
  expect(format.tags).toMatchObject({ composer: 'Nora Vale', date: '2031' })
  expect(chapters).toHaveLength(2)

  // What is changed makes the file stale; the picture can go again.
  await page.getByRole('button', { name: 'Remove the cover' }).press('Enter')
  await expect(page.getByText('no cover')).toBeVisible()
  await expect(page.getByRole('table').first().getByRole('cell', { name: 'stale' })).toHaveCount(1)
})

test('files are named by fields that buttons put in, in letters as they are written', async ({ page }) => {
  const production = await bringIn(page, 'Über Bienen', 2)
  await readAll(production)
  await page.goto(`${production}/delivery`)
  const sheet = page.getByRole('table').first()
  const pattern = page.getByRole('textbox', { name: 'Pattern' })
  // With the caret before the number, then at the end.
  await pattern.focus()
  await page.keyboard.press('Home')
  await page.getByRole('button', { name: 'Production', exact: true }).click()
  await expect(pattern).toHaveValue('{production}{number}-{title}')
  await pattern.fill('{title} {number}')
  await expect(page.getByText('Put {number} before {title}')).toBeVisible()
  await pattern.fill('{production} {number} ')
  await page.getByRole('button', { name: 'Language' }).click()
  await chooseByKeys(page, 'Letters', 'Letters as written')
  await page.getByLabel('First number').fill('7')
  await page.getByLabel('First number').press('Enter')
  await expect(sheet.getByText('Über Bienen 07 en.mp3')).toBeVisible()
  await expect(sheet.getByText('Über Bienen 08 en.mp3')).toBeVisible()

  await page.getByRole('button', { name: 'Make 2 files' }).click()
  await expect(sheet.getByRole('cell', { name: 'delivered' })).toHaveCount(2, { timeout: 60_000 })
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Über Bienen 07 en.mp3' }).click()])
  expect(download.suggestedFilename()).toBe('Über Bienen 07 en.mp3')
  const [whole] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /as ZIP/u }).click()])
  const listed = execFileSync('unzip', ['-Z1', await whole.path()], { encoding: 'utf8' })
  expect(listed.split('\n').slice(0, 2)).toEqual(['Über Bienen 07 en.mp3', 'Über Bienen 08 en.mp3'])
})

test('credits and chapters are announced: words are suggested, titles said twice are told, and what is announced is read and delivered', async ({ page }) => {
  const production = await bringIn(page, 'Announced', 2)
  await page.goto(`${production}/delivery`)
  const sheet = page.locator('.run-sheet')
  const files = sheet.locator('[data-label="File"]')
  await page.getByRole('button', { name: 'Change the announcements …' }).press('Enter')
  const form = page.getByRole('dialog')
  await form.getByRole('button', { name: 'Suggest words' }).press('Enter')
  await expect(form.getByText('“Announced.” Not known: author, narrator. The words before it are left out too.')).toBeVisible()
  const chapters = form.getByLabel('Before each chapter')
  await chapters.fill('{num}')
  await expect(form.getByText('It contains {num}; use {number} {part}')).toBeVisible()
  await expect(form.getByRole('button', { name: 'Save' })).toBeDisabled()
  await chapters.fill('Chapter ')
  await form.getByRole('button', { name: 'Number' }).click()
  await form.getByRole('button', { name: 'Title of the part' }).click()
  await expect(chapters).toHaveValue('Chapter {number}{part}')
  await page.keyboard.press('ArrowLeft')
  await form.getByRole('button', { name: 'Year' }).click()
  await form.getByRole('button', { name: 'Author' }).click()
  await expect(chapters).toHaveValue('Chapter {number}{part{year}{author}}')
  await chapters.fill('Chapter {number}: {part}.')
  await expect(form.getByText('“Chapter 1: Announced chapter 1.”')).toBeVisible()
  await form.getByRole('button', { name: 'Save' }).press('Enter')
  await expect(files).toHaveText(['01-opening-credits.mp3', '02-announced-chapter-1.mp3', '03-announced-chapter-2.mp3', '04-closing-credits.mp3'])
  await expect(page.getByText('2 titles are said twice, by the announcement and by the chapter itself: Announced chapter 1, Announced chapter 2.')).toBeVisible()
  await page.getByRole('button', { name: 'Leave them out' }).press('Enter')
  await expect(page.getByText('titles are said twice')).toHaveCount(0)

  await readAll(production)
  // The credits alone, and then the rest.
  await sheet.getByRole('checkbox').first().press('Space')
  await page.getByRole('button', { name: 'Make 1 chosen file' }).press('Enter')
  await expect(sheet.getByRole('cell', { name: 'passes' })).toHaveCount(1, { timeout: 60_000 })
  await page.getByRole('button', { name: 'Choose none' }).press('Enter')
  await page.getByRole('button', { name: 'Make 4 files' }).press('Enter')
  await expect(sheet.getByRole('cell', { name: 'passes' })).toHaveCount(4, { timeout: 60_000 })
  await page.goto(`${production}/script`)
  await expect(page.getByText('Announced: “Announced.”')).toBeVisible()
  // It is heard like any sentence, and the text behind it.
  await page.getByRole('button', { name: 'Play' }).click()
  await expect(page.getByText(/sentence 2 \/ \d/u)).toBeVisible()
  await page.getByRole('button', { name: 'Stop' }).click()
  await page.getByRole('link', { name: 'Change', exact: true }).press('Enter')
  await page.getByRole('button', { name: 'As the profile says' }).press('Enter')
  await expect(files).toHaveText(['01-announced-chapter-1.mp3', '02-announced-chapter-2.mp3'])
  await removeProductionOf(production.split('/').at(-1)!)
})

test('files are made for several profiles in one order, and each delivery is what its profile asks for', async ({ page }) => {
  const production = await bringIn(page, 'Several', 2)
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await chooseByKeys(page, 'Also for', 'One-file book')
  await chooseByKeys(page, 'Also for', 'Telephony')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Make 2 files · for 3 profiles' }).press('Enter')
  const deliveries = page.locator('details summary')
  await expect(deliveries.filter({ hasText: 'as the script is now' })).toHaveText([/Delivery 3 · Telephony/u, /Delivery 2 · One-file book/u, /Delivery 1 · Book, retail/u], { timeout: 60_000 })
  await expect(page.locator('.run-sheet').getByRole('cell', { name: 'passes' })).toHaveCount(2)
  const { deliveries: made } = await ask<DeliveryDesk>(`editions/${production.split('/').at(-1)}/run-sheet`)
  expect(made.map(({ files }) => files.map(({ name, findings }) => [name, findings?.length]))).toEqual([
    [['01-several-chapter-1.wav', 0], ['02-several-chapter-2.wav', 0]], [['01-several.m4b', 0]], [['01-several-chapter-1.mp3', 0], ['02-several-chapter-2.mp3', 0]],
  ])
  await removeProductionOf(production.split('/').at(-1)!)
})

/** Puts a rest of so many seconds behind the first sentence of a passage. */
async function longRest(editionId: string, partId: string, seconds: number): Promise<void> {
  const { passages } = await ask<ScriptPage>(`parts/${partId}`)
  const { id, revision } = passages.at(-1)!
  const content = { version: 2, runs: [{ text: 'It begins. ', on: [] }, { text: '', on: [], point: 'long' }, { text: 'It goes on.', on: [] }], directions: [{ id: 'long', kind: 'rest', ms: seconds * 1000 }] }
  await ask(`editions/${editionId}/operations`, { window: 'journey-1', operations: [{ op: 'setContent', passageId: id, revision, content }] })
}

test('a report tells what fails and where; it is delivered anyway with a reason, and compared with the delivery before', async ({ page }) => {
  const production = await bringIn(page, 'Reported', 2)
  const id = production.split('/').at(-1)!
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: 'Make 2 files' }).press('Enter')
  await page.getByRole('link', { name: 'Report', exact: true }).press('Enter')
  await expect(page.getByText('All 2 files pass “Book, retail”')).toBeVisible()
  await expect(page.getByText('Noise floor at most −60 dB')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Compared with' })).toHaveCount(0)
  await expect(page.locator('figure svg')).toContainText('RMS, dB')

  const [, second] = (await ask<Desk>(`editions/${id}`)).parts
  await longRest(id, second!.id, 12)
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: /^Make 2 files/u }).press('Enter')
  await page.getByRole('link', { name: 'Decide about 1 file that fails' }).press('Enter')
  await expect(page.getByText('1 of 2 files does not pass “Book, retail”')).toBeVisible()
  const packageOf = new URL(page.url()).pathname.split('/').at(-1)!
  expect((await fetch(`${address()}/api/deliveries/${packageOf}/package`)).status).toBe(409)

  // What has changed, by sentence.
  const changes = page.getByRole('region', { name: 'Compared with' })
  await expect(changes.getByText('0 files new, 1 changed, 0 renamed, 0 gone; 1 the same, byte for byte.')).toBeVisible()
  await expect(changes.locator('ins')).toHaveText(['It begins.', 'It goes on.'])

  // The report as files.
  for (const [name, ending] of [['a page to print', 'html'], ['CSV', 'csv'], ['JSON', 'json']] as const) {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name, exact: name !== 'a page to print' }).click()])
    expect(download.suggestedFilename()).toBe(`reported-2-report.${ending}`)
  }

  // A reason makes it a decision, which is taken back and made again.
  const anyway = page.getByRole('button', { name: 'Deliver anyway' })
  await expect(anyway).toBeDisabled()
  await page.getByRole('textbox', { name: 'Why it is delivered anyway' }).fill('The pause is meant')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“The pause is meant”')).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).press('Enter')
  await expect(page.getByRole('textbox', { name: 'Why it is delivered anyway' })).toHaveValue('The pause is meant')
  await anyway.press('Enter')
  const [whole] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /^Download 2 files as ZIP/u }).click()])
  expect(execFileSync('unzip', ['-Z1', await whole.path()], { encoding: 'utf8' }).split('\n')).toContain('playlist.cue')
  const [alone] = await Promise.all([page.waitForEvent('download'), changes.getByRole('link', { name: 'Download this file alone' }).click()])
  expect([alone.suggestedFilename(), execFileSync('unzip', ['-Z1', await alone.path()], { encoding: 'utf8' })]).toEqual(['reported-2-since-1.zip', expect.stringMatching(/^02-\S*\.mp3\n$/u)])

  // From the fault to its place in the script.
  await page.getByRole('link', { name: '“It begins.”' }).press('Enter')
  await expect(page).toHaveURL(/\/script\?part=/u)
  await expect(passage(page, 'It begins. It goes on.')).toBeVisible()
})

test('what is too long is divided by the remedy beside it; a delivery is removed when that is confirmed', async ({ page }) => {
  const production = await bringIn(page, 'Remedied', 2)
  const id = production.split('/').at(-1)!
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: 'Make 2 files' }).press('Enter')
  // A file of two hours takes too long to make: the report says that this one is too long for ten seconds.
  await page.route('**/report', async route => {
    const view = await (await route.fetch()).json() as DeliveryReportView
    const file = view.report.files[0]!.name
    const findings = [{ code: 'too-long', file, atMs: 10_000, message: 'It lasts too long.', remedy: 'Split it.' }, { code: 'too-large', file, atMs: null, message: 'It is too large.', remedy: 'Split it.' }]
    await route.fulfill({ json: { ...view, report: { ...view.report, longestMs: 10_000, largestBytes: 2_000_000, files: view.report.files.map((each, index) => index === 0 ? { ...each, findings } : each) } } })
  })
  await page.getByRole('link', { name: 'Report', exact: true }).press('Enter')
  await page.getByRole('button', { name: 'Divide into files of at most 0:10' }).press('Enter')
  await expect(page.getByRole('heading', { name: 'Run sheet' })).toBeVisible()
  expect((await ask<DeliveryDesk>(`editions/${id}/run-sheet`)).split.longestMs).toBe(10_000)
  await expect(page.locator('.run-sheet [data-label="No"]', { hasText: '01a' })).toBeVisible()
  await page.getByRole('link', { name: 'Report', exact: true }).press('Enter')
  await page.getByRole('button', { name: 'Divide into files of at most 2.0 MB' }).press('Enter')
  await expect(page.getByRole('heading', { name: 'Run sheet' })).toBeVisible()
  expect((await ask<DeliveryDesk>(`editions/${id}/run-sheet`)).split).toMatchObject({ longestMs: 10_000, largestBytes: 2_000_000 })

  await page.getByRole('button', { name: 'Remove …' }).press('Enter')
  await page.getByRole('button', { name: 'Remove delivery 1' }).press('Enter')
  await expect(page.getByText('None yet.')).toBeVisible()
})

test('a profile is copied, changed, used, handed on as a file, and removed', async ({ page }) => {
  const production = await bringIn(page, 'Own profile', 2)
  await readAll(production)
  expect((await fetch(`${address()}/api/editions/${production.split('/').at(-1)!}/sounds?name=guest.wav`, { method: 'POST', body: noisy() })).status).toBe(201)
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: 'Make a copy …' }).press('Enter')
  const form = page.getByRole('dialog')
  await expect(form.getByRole('textbox', { name: 'Name' })).toHaveValue('Book, retail, ours')
  await form.getByRole('textbox', { name: 'Name' }).fill('Study notes')
  await form.getByLabel('Level, dB or LUFS').fill('-30')
  await form.getByLabel('Level, dB or LUFS').press('Tab')
  // A level that its own limits refuse is not saved.
  await expect(form.getByRole('alert').filter({ hasText: 'target' })).toHaveText('The target of −30 is outside its limits: files would not pass.')
  await expect(form.getByRole('button', { name: 'Make this profile' })).toBeDisabled()
  await form.getByLabel('Level, dB or LUFS').fill('-22')
  // The voice is heard with its equaliser and without.
  await form.getByLabel('Equaliser').press('Space')
  await expect(form.locator('figure svg')).toContainText('1 kHz')
  await form.getByLabel('Nothing below, Hz').fill('100')
  await form.getByRole('button', { name: 'Remove band 1' }).press('Enter')
  await form.getByRole('button', { name: 'Hear it' }).press('Enter')
  await form.getByLabel('with the equaliser').press('Space')
  await expect(form.getByLabel('without it')).toBeVisible()
  await form.getByRole('button', { name: 'Stop' }).press('Enter')
  // So is a recording with less noise.
  await form.getByLabel('Lower their noise').press('Space')
  await form.getByLabel('Noise lower by, dB').fill('10')
  await form.getByRole('button', { name: 'Hear this recording' }).press('Enter')
  await expect(form.getByText('Its noise has −55 dB.')).toBeVisible()
  await form.getByLabel('with less noise').press('Space')
  await expect(form.getByLabel('as it is', { exact: true })).toBeVisible()
  await form.getByRole('button', { name: 'Stop' }).press('Enter')
  await form.getByLabel('After the last word').fill('2.5')
  // So productions are divided and named that have no ways of their own, and this lies beside their files.
  await form.getByLabel('At most, min').fill('30')
  await form.getByLabel('At most, min').press('Tab')
  await form.getByLabel('Pattern').fill('{number}-notes-{title}')
  await form.getByLabel('Pattern').press('Tab')
  await expect(form.getByText('01-notes-the-first-part.mp3')).toBeVisible()
  await form.getByLabel('cue sheets').press('Space')
  await form.getByLabel('Minutes at most').fill('')
  await form.getByLabel('Minutes at most').press('Enter')
  await expect(form).toHaveCount(0)
  await expect(page.getByText('RMS −22 dB, to within 0.5')).toBeVisible()
  await expect(page.getByText('Equaliser: nothing below 100 Hz, +2 dB at 3500 Hz')).toBeVisible()
  await expect(page.getByText('Noise of recordings lowered by 10 dB')).toBeVisible()
  await expect(page.getByLabel('At most, min')).toHaveValue('30')
  await expect(page.getByText('playlist, checksums, and')).toBeVisible()
  const names = page.locator('.run-sheet').getByRole('cell', { name: '-notes-' })
  await expect(names).toHaveCount(2)
  // A production can have names of its own, until it is to have those of its profile.
  await page.getByLabel('Pattern').fill('{number}-mine')
  await page.getByLabel('Pattern').press('Tab')
  await expect(names).toHaveCount(0)
  await page.getByRole('button', { name: 'Name as the profile does' }).press('Enter')
  await expect(names).toHaveCount(2)
  await expect(page.getByLabel('Pattern')).toHaveValue('{number}-notes-{title}')

  await page.getByRole('button', { name: 'Make 2 files' }).press('Enter')
  await page.getByRole('link', { name: 'Report', exact: true }).press('Enter')
  await expect(page.getByText('All 2 files pass “Study notes”')).toBeVisible()
  await expect(page.getByRole('row').nth(1)).toContainText('0.70 / 2.50')
  await page.getByRole('link', { name: 'back to the run sheet' }).press('Enter')

  // A change makes what was delivered stale.
  await page.getByRole('button', { name: 'Change …' }).press('Enter')
  await form.getByLabel('Before the first word').fill('0.9')
  await form.getByRole('button', { name: 'Save' }).press('Enter')
  await expect(page.locator('.run-sheet').getByRole('cell', { name: 'stale' })).toHaveCount(2)

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save as a file' }).click()])
  expect(download.suggestedFilename()).toBe('study-notes-profile.json')
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Bring in a file' }).click()])
  await chooser.setFiles(await download.path())
  await expect(page.getByText('Study notes 2', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Remove it' }).press('Enter')
  await expect(page.getByText('RMS −20 dB, to within 0.5')).toBeVisible()
  await page.getByRole('combobox', { name: 'Files for' }).focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('option', { name: /^Study notes/u })).toHaveCount(1)
})

/** A second of soft noise, then one of somebody who hums over it, as a WAV file. */
function noisy(): Uint8Array<ArrayBuffer> {
  let seed = 1
  return wavFile(Int16Array.from({ length: 2 * soundRate }, (_, at) => {
    seed = seed * 16_807 % 2_147_483_647
    return seed % 201 - 100 + (at < soundRate ? 0 : 8000 * Math.sin(at / 8))
  }))
}
