import { expect, test, type Page } from '@playwright/test'
import { address, bringIn, passage, readAll, saved, typeInto } from './support'

test('an edited text saves itself, survives a reload, and only its sentence is read again', async ({ page }) => {
  const production = await bringIn(page, 'Edited')
  await readAll(production)
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: 'Make 3 files' }).click()
  await expect(page.getByRole('link', { name: /as ZIP/u })).toBeVisible({ timeout: 60_000 })

  await page.goto(`${production}/script`)
  await typeInto(page, 'Here is a second one', ' And a third.')
  await saved(page)
  await page.reload()
  await expect(passage(page, 'And a third.')).toHaveText('This is the first sentence of Edited 1. Here is a second one in Edited 1. And a third.')
  await expect(page.getByRole('heading', { name: '1 sentence stale' })).toBeVisible()

  await page.goto(`${production}/delivery`)
  await expect(page.getByText('stale · 1 of 3 files')).toBeVisible()
  await expect(page.getByRole('cell', { name: 'stale · 1 sentence' })).toBeVisible()
  await page.goto(`${production}/reading`)
  await page.getByRole('button', { name: /^Read 1 sentence/u }).click()
  await expect(page.getByText('The last reading made 1 sentence.')).toBeVisible()
  await page.goto(`${production}/delivery`)
  await page.getByRole('button', { name: 'Make 3 files · 1 changed' }).click()
  await expect(page.getByText('Delivery 2')).toBeVisible()
  await expect(page.getByText('Delivery 1')).toBeVisible()
  await expect(page.getByText('as the script is now')).toBeVisible({ timeout: 60_000 })
})

test('typing changes the text of a passage, never the number of passages', async ({ page }) => {
  await bringIn(page, 'Fixed')
  const count = await page.locator('.ProseMirror .passage').count()
  await typeInto(page, 'Here is a second one', ' More')
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await expect(page.locator('.ProseMirror .passage')).toHaveCount(count)
  await saved(page)
  await expect(passage(page, 'More')).toBeVisible()
})

test('parts are renamed, left out and moved, and stay so', async ({ page }) => {
  await bringIn(page, 'Spine')
  const labels = page.locator('.part-label')
  await page.getByRole('button', { name: 'Change Spine chapter 2' }).click()
  await page.getByText('Rename').click()
  await page.getByLabel('New name of Spine chapter 2').fill('Lime Flow')
  await page.keyboard.press('Enter')
  await expect(labels).toHaveText(['Spine chapter 1', 'Lime Flow', 'Spine chapter 3'])
  await page.getByRole('button', { name: 'Change Spine chapter 3' }).click()
  await page.getByText('Move up').click()
  await expect(labels).toHaveText(['Spine chapter 1', 'Spine chapter 3', 'Lime Flow'])
  await page.getByRole('button', { name: 'Change Spine chapter 1' }).click()
  await page.getByText('Leave out').click()
  await expect(page.locator('.part-time').first()).toHaveText('left out')
  const [from, to] = await Promise.all([page.locator('.part', { hasText: 'Lime Flow' }).boundingBox(), page.locator('.part', { hasText: 'Spine chapter 1' }).boundingBox()])
  await page.mouse.move(from!.x + 60, from!.y + 12)
  await page.mouse.down()
  await page.mouse.move(to!.x + 60, to!.y + 20, { steps: 12 })
  await page.mouse.move(to!.x + 60, to!.y + 4, { steps: 4 })
  await page.mouse.up()
  await expect(labels.first()).toHaveText('Lime Flow')
  await page.reload()
  await expect(labels).toHaveText(['Lime Flow', 'Spine chapter 1', 'Spine chapter 3'])
  await page.getByLabel('Find a part').fill('chapter 3')
  await expect(labels).toHaveText(['Spine chapter 3'])
})

test('rests are shown between the passages and edited in ms', async ({ page }) => {
  await bringIn(page, 'Rests')
  const item = passage(page, 'Rests item 1')
  await expect(item).toHaveAttribute('data-rest', '600')
  await expect(passage(page, 'Said in Rests 1')).toHaveAttribute('data-rest', '600')
  await page.getByRole('tab', { name: 'Rests' }).click()
  await page.getByLabel('Paragraph, rest after, ms').fill('1250')
  await page.keyboard.press('Tab')
  await expect(item).toHaveAttribute('data-rest', '1250')
  // A second is 24 px on the page.
  await expect(item).toHaveCSS('padding-top', '30px')
  await page.reload()
  await expect(page.getByLabel('Paragraph, rest after, ms')).toHaveValue('1250')
  await page.getByLabel('Paragraph, rest after, ms').fill('-3')
  await page.keyboard.press('Tab')
  await expect(page.getByLabel('Paragraph, rest after, ms')).toHaveValue('1250')
})

/** The sentence that is lit, in however many pieces. */
const lit = async (page: Page): Promise<string> => (await page.locator('.lit').allTextContents()).join('')

test('a sentence and a part play at once, before anything was read, with the sentence lit', async ({ page }) => {
  await bringIn(page, 'Listen')
  const heard: string[] = []
  page.on('response', response => { if (response.url().includes('/audio/')) heard.push(`${response.status()} ${response.headers()['content-type']}`) })
  await passage(page, 'Here is a second one').click()
  // The sentence that is clicked is chosen: one of the two of this passage.
  await expect.poll(() => lit(page)).toMatch(/^(?:This is the first sentence of|Here is a second one in) Listen 1\.$/u)
  await page.keyboard.press('Home')
  await page.keyboard.press('Control+Enter')
  await expect.poll(() => lit(page)).toBe('This is the first sentence of Listen 1.')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible({ timeout: 10_000 })
  expect(heard).toEqual(['200 audio/wav'])

  // As fast as one can: no space is typed into the text.
  await Promise.all([page.keyboard.press('Escape'), page.keyboard.press('Space')])
  await expect.poll(() => lit(page), { timeout: 10_000, intervals: [100] }).toBe('Here is a second one in Listen 1.')
  await expect.poll(() => lit(page), { timeout: 10_000, intervals: [100] }).toBe('Listen item 1')
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()

  // It stays where it stopped, and goes on from there.
  const reel = page.locator('[data-region="reel"]')
  await expect(reel).toContainText('sentence 4 /')
  await expect.poll(() => lit(page)).toBe('Listen item 1')
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await expect(reel).toContainText('Narrator')
})

test('the pages have no script error and nothing from elsewhere', async ({ page }) => {
  const errors: string[] = []
  page.on('pageerror', error => errors.push(error.message))
  page.on('console', message => { if (message.type() === 'error') errors.push(message.text()) })
  page.on('request', request => { if (!request.url().startsWith(address()) && !request.url().startsWith('blob:')) errors.push(request.url()) })
  const production = await bringIn(page, 'Quiet')
  for (const stage of ['intake', 'script', 'cast', 'reading', 'delivery']) {
    await page.goto(`${production}/${stage}`)
    await expect(page.getByRole('link', { name: 'Delivery' })).toBeVisible()
    await page.waitForLoadState('load')
  }
  expect(errors).toEqual([])
})
