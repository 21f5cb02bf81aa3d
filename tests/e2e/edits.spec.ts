import { expect, test, type BrowserContext, type Page } from '@playwright/test'
import { bringIn, passage, saved, typeInto } from './support'

const labels = (page: Page) => page.locator('.part-label')

/** A second window on the same production that hears nothing of the first one's saves. */
async function deafWindow(context: BrowserContext, production: string): Promise<Page> {
  const other = await context.newPage()
  await other.route('**/events', route => route.abort())
  await other.goto(`${production}/script`)
  await expect(other.locator('.ProseMirror')).toBeVisible()
  return other
}

test('undo and redo reach across passages, operations on parts and a reload', async ({ page }) => {
  await bringIn(page, 'Undo')
  await typeInto(page, 'Here is a second one', ' One more.')
  await saved(page)
  await typeInto(page, 'Said in', ' And another.')
  await saved(page)
  await page.getByRole('button', { name: 'Change Undo chapter 2' }).click()
  await page.getByText('Merge with the next').click()
  await expect(labels(page)).toHaveText(['Undo chapter 1', 'Undo chapter 2'])
  await page.reload()

  await expect(page.getByRole('button', { name: 'Undo join: “Undo chapter 3” (Ctrl Z)' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(labels(page)).toHaveText(['Undo chapter 1', 'Undo chapter 2', 'Undo chapter 3'])
  // The undo may have led to the part that it gave back: a page goes on where one was.
  await page.getByRole('button', { name: /^1 Undo chapter 1/u }).click()
  await passage(page, 'One more.').click()
  // The second is pressed while the first is still on its way.
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(passage(page, 'And another.')).toHaveCount(0)
  await expect(passage(page, 'One more.')).toHaveCount(0)
  await page.keyboard.press('Control+y')
  await expect(passage(page, 'One more.')).toBeVisible()
  await page.reload()
  await expect(passage(page, 'One more.')).toBeVisible()
  await expect(passage(page, 'And another.')).toHaveCount(0)
})

test('a part is divided where the caret is, and undo puts it together again', async ({ page }) => {
  await bringIn(page, 'Divide', 2)
  await passage(page, 'Divide item 1').click()
  await page.getByRole('button', { name: 'Begin a new part here' }).click()
  await expect(labels(page)).toHaveText(['Divide chapter 1', 'Divide chapter 1, continued', 'Divide chapter 2'])
  await expect(passage(page, 'Divide item 1')).toHaveCount(0)
  await page.locator('.part').nth(1).click()
  await expect(page.locator('.ProseMirror .passage')).toHaveText(['Divide item 1', 'Said in Divide 1.'])
  await page.getByRole('button', { name: 'Undo divide: “Divide chapter 1, continued” (Ctrl Z)' }).click()
  await expect(labels(page)).toHaveText(['Divide chapter 1', 'Divide chapter 2'])
  await expect(passage(page, 'Divide item 1')).toBeVisible()
})

test('an undo that meets the edit of another window is refused, with both texts, and either can be chosen', async ({ page, context }) => {
  const production = await bringIn(page, 'Refused')
  await typeInto(page, 'Here is a second one', ' Mine.')
  await saved(page)
  const other = await deafWindow(context, production)
  await typeInto(other, 'Mine.', ' Theirs.')
  await saved(other)
  await expect(passage(page, 'Theirs.')).toBeVisible()

  await passage(page, 'Theirs.').click()
  await page.keyboard.press('Control+z')
  const conflict = page.locator('.conflict')
  await expect(conflict).toContainText('The undo was refused')
  await expect(conflict).toContainText('Here is a second one in Refused 1. Mine. Theirs.')
  await expect(passage(page, 'Theirs.')).toBeVisible()
  await conflict.getByRole('button', { name: 'Put this text there' }).click()
  await expect(conflict).toHaveCount(0)
  await expect(passage(page, 'Mine.')).toHaveCount(0)
  // Putting it there is an edit like any other.
  await page.keyboard.press('Control+z')
  await expect(passage(page, 'Mine. Theirs.')).toBeVisible()
})

test('two windows on one passage: the second save is not made, both texts are shown and one is chosen', async ({ page, context }) => {
  const production = await bringIn(page, 'Windows')
  const other = await deafWindow(context, production)
  await typeInto(page, 'Here is a second one', ' From the first.')
  await saved(page)
  await typeInto(other, 'Here is a second one', ' From the second.')
  const conflict = other.locator('.conflict')
  await expect(conflict).toContainText('From the first.')
  await expect(conflict).toContainText('From the second.')
  await conflict.getByRole('button', { name: 'Keep the text of this window' }).click()
  await saved(other)
  await page.reload()
  await expect(passage(page, 'From the second.')).toBeVisible()
})

test('while the server is away edits are kept in the browser, over a reload too, and sent when it is back', async ({ page, context }) => {
  await bringIn(page, 'Away')
  await page.route('**/operations', route => route.abort())
  await typeInto(page, 'Here is a second one', ' Typed while away.')
  await expect(page.locator('.status')).toContainText('Not saved: the server does not answer')
  page.on('dialog', dialog => void dialog.accept())
  await page.reload()
  await expect(passage(page, 'Typed while away.')).toBeVisible()
  await expect(page.locator('.status')).toContainText('Not saved')
  await page.unroute('**/operations')
  await saved(page)
  const fresh = await context.newPage()
  await fresh.goto(page.url())
  await expect(passage(fresh, 'Typed while away.')).toBeVisible()
})

test('an edit kept over a reload that meets another edit shows both texts', async ({ page, context }) => {
  const production = await bringIn(page, 'Late')
  const other = await deafWindow(context, production)
  await other.route('**/operations', route => route.abort())
  await typeInto(other, 'Here is a second one', ' Late.')
  await expect(other.locator('.status')).toContainText('Not saved')
  await typeInto(page, 'Here is a second one', ' Early.')
  await saved(page)
  other.on('dialog', dialog => void dialog.accept())
  await other.unroute('**/operations')
  await other.reload()
  await expect(other.locator('.conflict')).toContainText('Early.')
  await expect(other.locator('.conflict')).toContainText('Late.')
})
