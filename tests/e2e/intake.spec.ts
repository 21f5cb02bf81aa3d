import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import iconv from 'iconv-lite'
import type { Desk } from '#shared/api'
import { root } from '../support/paths'
import { address, ask, bringIn, markdown, passage, readAll, saved, typeInto } from './support'

async function choose(page: Page, files: { name: string, content: string | Buffer }[], button = 'Bring in a document'): Promise<void> {
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: button }).click()
  await (await chooser).setFiles(files.map(({ name, content }) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) })))
}

async function select(page: Page, label: string | RegExp, option: string | RegExp): Promise<void> {
  await page.locator('.v-select', { has: page.getByRole('combobox', { name: label }) }).click()
  await page.getByRole('option', { name: option }).click()
}

const part = (page: Page, label: string) => page.locator('.spine .part', { hasText: label })

test('a deck becomes a part for each slide, found by its label, with what is on the slide beside the notes', async ({ page }) => {
  await page.goto(address())
  await choose(page, [{ name: 'inspection.pptx', content: readFileSync(join(root, 'demo/files/the-first-spring-inspection.pptx')) }])
  await expect(page.getByRole('button', { name: 'Accept 7 slides' })).toBeVisible()
  await expect(page.getByRole('checkbox', { name: 'Read For the instructor' })).not.toBeChecked()
  await expect(page.getByText('2 slides have no notes')).toBeVisible()
  await page.getByRole('button', { name: 'Five questions for every frame' }).click()
  await expect(page.locator('.text .row.drop p')).toContainText(['Five questions for every frame', 'Food?', 'Eggs?'])

  await page.getByRole('checkbox', { name: 'Short texts on a slide become parts of their own (hints)' }).check()
  await page.getByRole('button', { name: /^Accept 2\d slides/u }).click()
  await page.getByPlaceholder('Find a part').fill('close')
  await expect(page.locator('.spine .part-label')).toHaveText(['Look closely', 'Close and write', 'Close gently'])
  await part(page, 'Close and write').click()
  await expect(passage(page, 'Close the hive gently, crown board first.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'About this part' })).toContainText('Write it down')
  await part(page, 'Look closely').click()
  await expect(page.locator('.ProseMirror')).toHaveText('')
})

test('the structure is proposed, changed and accepted: by pattern, by hand, with parts left out and drops read', async ({ page }) => {
  await page.goto(address())
  const chapter = (number: number): string => `Chapter ${number}\n\nIt rained in place ${number}. As chapter 9 says, it went on.\n\nThe end of place ${number} was dry.\n\n\n`
  await choose(page, [{ name: 'plain.txt', content: [1, 2, 3].map(chapter).join('') }])
  // Lines that number chapters begin parts until somebody chooses otherwise.
  await expect(page.getByRole('button', { name: 'Accept 3 parts' })).toBeVisible()
  await select(page, 'A part begins at', 'Nowhere: one part')
  await expect(page.getByRole('button', { name: 'Accept 1 part' })).toBeVisible()
  await select(page, 'A part begins at', 'Lines like “Chapter 7” (3)')
  await expect(page.getByRole('button', { name: 'Accept 3 parts' })).toBeVisible()
  await expect(page.locator('.parts tbody button')).toHaveText(['Chapter 1', 'Chapter 2', 'Chapter 3'])

  await page.getByRole('button', { name: 'Chapter 2' }).click()
  await page.locator('.text .row', { hasText: 'The end of place 2' }).hover()
  await page.locator('.text .row', { hasText: 'The end of place 2' }).getByRole('button', { name: 'Begin a part here' }).click()
  await expect(page.getByRole('button', { name: 'Accept 4 parts' })).toBeVisible()
  await page.getByRole('checkbox', { name: 'Read Chapter 3' }).uncheck()
  await page.getByRole('button', { name: 'Accept 3 parts' }).click()
  await expect(page.locator('.spine .part-label')).toHaveText(['Chapter 1', 'Chapter 2', 'The end of place 2 was …', 'Chapter 3'])
  await expect(part(page, 'Chapter 3')).toContainText('left out')
})

test('a pattern that is none is refused at its place, and nothing is lost', async ({ page }) => {
  await page.goto(address())
  await choose(page, [{ name: 'patterns.md', content: markdown('Patterns') }])
  await select(page, 'A part begins at', 'A pattern of your own')
  await page.getByLabel('Pattern (regular expression)').fill('(')
  await expect(page.getByText('is not a pattern that can be looked for').first()).toBeVisible()
  await expect(page.getByRole('button', { name: /^Accept/u })).toBeDisabled()
  await page.getByLabel('Pattern (regular expression)').fill('Patterns chapter 2')
  await expect(page.getByRole('button', { name: 'Accept 2 parts' })).toBeEnabled()
})

test('a single drop is read with one click, and all of a kind', async ({ page }) => {
  await page.goto(address())
  await choose(page, [{ name: 'drops.md', content: '# Drops\n\nSee [this](https://a.example/x) and [that](https://b.example/y) in the text of the drops.\n' }])
  await page.locator('.text .row.drop').first().getByRole('button', { name: 'Read it' }).click()
  await expect(page.locator('.text p.paragraph')).toContainText('See this https://a.example/x and that in')
  await page.locator('.drops li', { hasText: '2 link targets' }).getByRole('button', { name: 'Read' }).click()
  await expect(page.locator('.text p.paragraph')).toContainText('and that https://b.example/y in')
})

test('several files, or a table, become articles; columns of the table can be chosen', async ({ page }) => {
  await page.goto(address())
  await choose(page, [{ name: '10.md', content: '# Ten\n\nThe last of the batch.' }, { name: '2.txt', content: 'The first of the batch, in plain text.' }])
  await expect(page.locator('.parts tbody button')).toHaveText(['2', 'Ten'])
  await expect(page.getByRole('button', { name: 'Accept 2 articles' })).toBeVisible()

  await page.goto(address())
  await choose(page, [{ name: 'rows.csv', content: 'title,other,body\nSwarm,Another title,Bees fly out early in the morning.\n' }])
  await page.getByText('Columns of the table').click()
  await select(page, 'Title', 'other')
  await expect(page.locator('.parts tbody button')).toHaveText(['Another title'])
})

test('an old text encoding is told with how sure it is, and another is one click away', async ({ page }) => {
  const polish = 'Pszczoły wylatują wcześnie rano, gdy kwitnie wierzba, i wracają późno wieczorem. Żadna nie śpi, mówi pszczelarz.'
  await page.goto(address())
  await choose(page, [{ name: 'pszczoly.txt', content: iconv.encode(polish, 'windows-1250') }])
  const encoding = page.locator('.encoding')
  await expect(encoding.locator('summary')).toHaveText('Encoding of the text: windows-1250 (recognised, certain)')
  await expect(page.locator('.text')).toContainText(polish)
  await encoding.locator('summary').click()
  const other = encoding.getByRole('button', { name: /^Read it as/u }).first()
  const name = (await other.innerText()).replace('Read it as ', '')
  await other.click()
  await expect(encoding.locator('summary')).toHaveText(`Encoding of the text: ${name} (chosen by you)`)
  await expect(page.locator('.text')).not.toContainText('wcześnie')
  await encoding.locator('summary').click()
  await encoding.getByRole('button', { name: 'Read it as windows-1250' }).click()
  await expect(page.locator('.text')).toContainText(polish)
})

test('a long reading shows how far it is, can be stopped, and begun again', async ({ page }) => {
  await page.goto(address())
  await choose(page, [{ name: 'long.pdf', content: readFileSync('/usr/share/developers-reference/developers-reference.pdf') }])
  await page.getByRole('button', { name: 'Stop reading it' }).click()
  await expect(page.getByRole('alert')).toHaveText(/The reading of long\.pdf was stopped/u)
  await page.getByRole('button', { name: 'Read it again' }).click()
  await expect(page.getByRole('button', { name: 'Accept 10 parts' })).toBeVisible({ timeout: 60_000 })
})

test('several parts are chosen and changed as one edit, and the script is divided anew', async ({ page }) => {
  await bringIn(page, 'Several', 4)
  await page.getByRole('button', { name: 'Change several parts' }).click()
  await page.getByText('Choose several').click()
  await part(page, 'Several chapter 2').click()
  await part(page, 'Several chapter 4').click({ modifiers: ['Shift'] })
  await page.getByRole('button', { name: 'Rename …' }).click()
  await page.getByLabel('Find (regular expression)').fill('^Several chapter (\\d)$')
  await page.getByLabel('Put in its place').fill('Lesson $1')
  await page.getByRole('button', { name: 'Rename 3 parts' }).click()
  await expect(page.locator('.spine .part-label')).toHaveText(['Several chapter 1', 'Lesson 2', 'Lesson 3', 'Lesson 4'])
  await page.getByRole('button', { name: 'Merge', exact: true }).click()
  await expect(page.locator('.spine .part-label')).toHaveText(['Several chapter 1', 'Lesson 2'])
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: /^Undo/u }).click()
  await expect(page.locator('.spine .part-label')).toHaveCount(4)

  await page.getByRole('button', { name: 'Change several parts' }).click()
  await page.getByText('Divide anew').click()
  await select(page, 'A part begins at', 'A pattern of your own')
  await page.getByLabel('Pattern (regular expression)').fill('Several item')
  await expect(page.getByText('5 parts: 1 as now, 4 new, 3 no longer.')).toBeVisible()
  await page.getByRole('button', { name: 'Divide into 5 parts' }).click()
  await expect(page.locator('.spine .part-label')).toHaveCount(5)
  await page.getByRole('button', { name: /^Undo/u }).click()
  await expect(page.locator('.spine .part-label')).toHaveText(['Several chapter 1', 'Lesson 2', 'Lesson 3', 'Lesson 4'])
})

test('a new version is compared and taken over: what did not change keeps its edits and readings', async ({ page }) => {
  const production = await bringIn(page, 'Version', 2)
  await readAll(production)
  await typeInto(page, 'Here is a second one in Version 1.', ' Typed here.')
  await saved(page)
  await page.getByRole('link', { name: 'Intake' }).click()
  const version = markdown('Version', 2).replace('Said in Version 2.', 'Said in Version 2, and sung.').replace('Here is a second one in Version 1.', 'Here is a second one in Version 1, by the author.')
  await choose(page, [{ name: 'version-2.md', content: `${version}\n\nA wholly new ending stands here.\n` }], 'Bring in a new version')
  await expect(page.getByText(/6 passages the same, 2 edited, 0 moved, 1 new, 0 gone/u)).toBeVisible()
  await expect(page.getByText('1 passage changed on both sides')).toBeVisible()
  await expect(page.locator('tr.edited').first().getByRole('checkbox', { name: 'Take it' })).not.toBeChecked()
  await page.getByRole('button', { name: 'Take over 2 changes' }).click()
  await expect(passage(page, 'Typed here.')).toBeVisible()
  const desk = await ask<Desk>(`editions/${production.split('/').at(-1)}`)
  // Only what is new or changed must be read: the typed sentence, the sung one, the ending.
  expect(desk.parts.reduce((sum, each) => sum + each.missing, 0)).toBe(3)
  await page.getByRole('button', { name: /^Undo/u }).click()
  await expect.poll(async () => (await ask<Desk>(`editions/${production.split('/').at(-1)}`)).parts.reduce((sum, each) => sum + each.missing, 0)).toBe(1)
})
