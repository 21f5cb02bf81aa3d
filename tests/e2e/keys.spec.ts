import { expect, test } from '@playwright/test'
import { bringIn, makeProduction, passage } from './support'

test.use({ baseURL: process.env['QUILL_ADDRESS'] })

test('all commands of a view are found by their names, with their keys, and done', async ({ page }) => {
  await bringIn(page, 'Commands', 2)
  await page.keyboard.press('Control+k')
  const list = page.getByRole('listbox', { name: 'Commands' })
  await expect(list.getByRole('option', { name: /^Find and replace/u })).toHaveText('Find and replaceCtrlShiftF')
  await page.getByRole('combobox', { name: 'Find a command' }).fill('as spoken')
  await expect(list.getByRole('option')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Spoken' })).toHaveAttribute('aria-pressed', 'true')
  // In the text too, and by arrows.
  await passage(page, 'Commands item 1').click()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('text as')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Written', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('go to words')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/words$/u)
})

test('the help tells the way, the words and the keys; a key is changed, doubles are refused, single signs are switched off', async ({ page }) => {
  const edition = await makeProduction('Help', '# Help\n\nZorblax met Quuxa.\n')
  await page.goto(`/productions/${edition}/words`)
  await expect(page.getByRole('button', { name: /^Quuxa /u })).toBeVisible()
  await page.keyboard.press('?')
  const help = page.getByRole('dialog', { name: 'Help' })
  await expect(help.getByRole('listitem')).toHaveCount(7)
  await help.getByRole('tab', { name: 'Words used here' }).click()
  await expect(help.getByText('Every word and sign of the script that the voice may say wrong.')).toBeVisible()
  await help.getByRole('tab', { name: 'Keys' }).click()
  await help.getByRole('button', { name: 'Change the key of Hear it as it is now' }).click()
  await page.keyboard.press('s')
  await expect(help.getByRole('alert')).toHaveText('Not changed: “Hear its sentence” has this key. Give that another one first.')
  await help.getByRole('button', { name: 'Change the key of Hear it as it is now' }).click()
  await page.keyboard.press('j')
  await expect(help.getByRole('row', { name: /^Hear it as it is now/u })).toContainText('J')
  await help.getByRole('button', { name: 'Close' }).click()
  await expect(help).toHaveCount(0)

  // It is so after a reload, on the cards too.
  await page.reload()
  await expect(page.locator('.key-card')).toContainText('J hear it as it is now')
  await expect(page.getByRole('button', { name: /^Quuxa /u })).toBeVisible()
  const heard = page.waitForRequest(request => request.url().endsWith('/hear'))
  await page.keyboard.press('j')
  await heard

  await page.keyboard.press('F1')
  await help.getByRole('tab', { name: 'Keys' }).click()
  await help.getByRole('checkbox', { name: /^Keys that type a sign alone/u }).uncheck()
  await help.getByRole('button', { name: 'As usual: Hear it as it is now' }).click()
  await help.getByRole('button', { name: 'Close' }).click()
  await expect(help).toHaveCount(0)
  let asked = 0
  page.on('request', request => { if (request.url().endsWith('/hear')) asked += 1 })
  for (const key of ['h', 'j', 's']) await page.keyboard.press(key)
  await page.keyboard.press('?')
  await expect(help).toHaveCount(0)
  expect(asked).toBe(0)
})

test('the first stop of Tab leads past the head of the page', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Skip to the content' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('main')).toBeFocused()
})
