import { expect, test } from '@playwright/test'
import type { Desk } from '#shared/api'
import { address, bringIn, makeProduction, readAll, removeProductionOf } from './support'

test('voice, pace, pitch and volume are chosen, heard and kept', async ({ page }) => {
  const production = await bringIn(page, 'Voices')
  await page.goto(`${production}/cast`)
  await expect(page.getByText('155 words a minute')).toBeVisible()
  await expect(page.getByRole('row', { name: /English \(Great Britain\)/u })).toContainText('speaks')

  const sample = page.waitForResponse('**/api/samples')
  await page.getByRole('button', { name: 'Hear English (Scotland)' }).click()
  const heard = await sample
  expect(heard.status()).toBe(200)
  expect((await heard.body()).toString('latin1', 0, 4)).toBe('RIFF')

  await page.getByRole('button', { name: 'Use this voice: English (Scotland)' }).click()
  await expect(page.getByRole('row', { name: /English \(Scotland\)/u })).toContainText('speaks')
  for (const [name, key, shown] of [['Pace, words a minute', 'ArrowLeft', '154 words a minute'], ['Pitch, semitones', 'ArrowRight', '+0.5 semitones'], ['Volume, dB below full level', 'ArrowLeft', '−3.5 dB']] as const) {
    await page.getByRole('slider', { name }).focus()
    await page.keyboard.press(key)
    await expect(page.getByText(shown)).toBeVisible()
  }
  await expect.poll(async () => (await (await page.request.get(production.replace('/productions/', '/api/editions/'))).json() as Desk).casting)
    .toMatchObject({ voice: 'en-gb-scotland', wordsPerMinute: 154, pitchSemitones: 0.5, gainDb: -3.5 })
  await page.reload()
  await expect(page.getByText('154 words a minute')).toBeVisible()
  await expect(page.getByText('+0.5 semitones')).toBeVisible()
  await expect(page.getByText('−3.5 dB')).toBeVisible()
  await expect(page.getByRole('row', { name: /English \(Scotland\)/u })).toContainText('speaks')
})

test('a role is read by another engine beside the narrator, at the pace that it has; a voice that knows few words says so, and fails on others', async ({ page }) => {
  const edition = await makeProduction('engines.md', 'MENTOR: The hive is quiet now.\n\nAPPRENTICE: Shall I close the door?\n\nMENTOR: Close it.')
  await page.goto(`${address()}/productions/${edition}/script`)
  await page.getByRole('button', { name: 'Make 2 roles' }).click()
  await expect(page.locator('.role-tag')).toHaveCount(3)
  await page.goto(`${address()}/productions/${edition}/cast`)
  await page.getByRole('button', { name: /^Mentor/u }).click()
  await page.getByRole('slider', { name: 'Pace, words a minute' }).focus()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByText('154 words a minute')).toBeVisible()
  const slate = page.getByRole('row', { name: /Slate/u })
  await expect(slate).toContainText(/American English.*16 kHz/u)
  const clock = page.getByRole('row', { name: /Clock/u })
  await expect(clock).toContainText('Only tells the time')
  const refused = page.waitForResponse('**/api/samples')
  await clock.getByRole('button', { name: 'Hear Clock' }).click()
  expect((await refused).status()).toBe(422)
  await expect(page.getByText(/This voice only tells the time\. It does not know “/u)).toBeVisible()

  await page.getByRole('button', { name: 'Use this voice: Slate' }).click()
  await expect(slate).toContainText('speaks')
  await expect(page.getByText('154 words a minute')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: /^Mentor/u }).click()
  await expect(slate).toContainText('speaks')
  await readAll(`${address()}/productions/${edition}`)
  await removeProductionOf(edition)
})

test('the voices of every language are there', async ({ page }) => {
  const production = await bringIn(page, 'Languages')
  await page.goto(`${production}/cast`)
  await page.getByRole('combobox', { name: 'Voices of' }).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Swahili')
  await page.getByRole('option', { name: 'Swahili (sw)' }).click()
  await expect(page.getByRole('row', { name: /Swahili/u })).toBeVisible()
  await expect(page.getByText('The text is English; these voices speak Swahili.')).toBeVisible()
})

test('the language is recognised at intake and can be changed there', async ({ page }) => {
  await page.goto(process.env['QUILL_ADDRESS']!)
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring in a document' }).click()
  const german = '# Das Jahr\n\nDie Bienen fliegen früh am Morgen aus und kommen spät am Abend mit dem Pollen der Weide zurück.\n\n# Im Mai\n\nDie Linden blühen.'
  await (await chooser).setFiles({ name: 'jahr.md', mimeType: 'text/markdown', buffer: Buffer.from(german) })
  const language = page.getByRole('combobox', { name: 'Language' })
  await expect(language).toHaveValue('German (de)')
  await expect(page.getByText('recognised from the text')).toBeVisible()
  await language.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Dutch')
  await page.getByRole('option', { name: 'Dutch (nl)' }).click()
  await page.getByRole('button', { name: 'Accept 2 parts' }).click()
  await expect(page.locator('.where')).toContainText('Dutch')
})
