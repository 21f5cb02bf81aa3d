import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import type { HouseStyle } from '#core/style/house-style'
import type { Desk, Page } from '#shared/api'
import { ask, makeProduction } from './support'

test.use({ baseURL: process.env['QUILL_ADDRESS'] })

const text = '# Weights\n\nDr. Ann weighs 5 kg of wax. The bees fly.\n\nShe adds 7 kg more.\n'

async function open(name: string, body = text) {
  const edition = await makeProduction(name, body, 'plain')
  const { parts: [part] } = await ask<Desk>(`editions/${edition}`)
  const spoken = async () => (await ask<Page>(`parts/${part!.id}`)).said.map(({ as }) => as)
  const keys = async () => (await ask<Page>(`parts/${part!.id}`)).utterances.map(({ key }) => key)
  return { edition, part: part!.id, spoken, keys }
}

test('a set of rules is chosen, every hit is seen before and after, one is switched off, and all is undone', async ({ page }) => {
  const { edition, spoken, keys } = await open('Weights')
  const before = await keys()
  await page.goto(`/productions/${edition}/words?view=style`)
  await page.getByRole('button', { name: 'Start from' }).click()
  await page.getByText('Book: clean, write out').click()
  await expect.poll(spoken).toEqual(['Doctor', 'five kilograms', 'seven kilograms'])
  expect((await keys()).map((key, index) => key === before[index])).toEqual([true, false, true, false])

  const units = page.getByRole('listitem').filter({ hasText: /^Units/u })
  await expect(units).toContainText('2')
  await units.getByRole('button', { name: /^Units/u }).click()
  const places = page.getByRole('region', { name: 'The rule' }).locator('.places li')
  await expect(places.locator('del')).toHaveText(['5 kg', '7 kg'])
  await expect(places.locator('ins')).toHaveText(['five kilograms', 'seven kilograms'])
  await page.getByRole('button', { name: 'Not here: 7 kg' }).click()
  await expect.poll(spoken).toEqual(['Doctor', 'five kilograms', 'seven'])
  await expect(page.getByText('Switched off at 1 place')).toBeVisible()

  await page.getByRole('checkbox', { name: 'Abbreviations is on' }).uncheck()
  await expect.poll(spoken).toEqual(['five kilograms', 'seven'])
  for (const wanted of [['Doctor', 'five kilograms', 'seven'], ['Doctor', 'five kilograms', 'seven kilograms'], []]) {
    await page.getByRole('button', { name: /^Undo /u }).click()
    await expect.poll(spoken).toEqual(wanted)
  }
  expect(await keys()).toEqual(before)
})

test('an own rule is seen at its places before it is kept; its order is changed by keys; a pattern that is none is named', async ({ page }) => {
  const { edition, spoken } = await open('Own')
  await page.goto(`/productions/${edition}/words?view=style`)
  await page.getByRole('button', { name: 'Add a rule' }).click()
  await page.getByText('Own rule: text or pattern').click()
  const rule = page.getByRole('region', { name: 'The rule' })
  await rule.getByRole('checkbox', { name: 'Pattern' }).check()
  await rule.getByRole('textbox', { name: 'Find' }).fill('(\\d+) kg (')
  await expect(rule.locator('.fault')).toContainText('not a pattern')
  await expect(rule.getByRole('button', { name: /^Keep/u })).toBeDisabled()
  // One that has no end in other engines.
  await rule.getByRole('textbox', { name: 'Find' }).fill('(?P<n>(\\d+)+) kg')
  await rule.getByRole('textbox', { name: 'Say instead' }).fill('$<n> kilos')
  await expect(rule.locator('.places ins')).toHaveText(['5 kilos', '7 kilos'])
  expect(await spoken()).toEqual([])
  await rule.getByRole('button', { name: 'Keep · 2 places' }).click()
  await expect.poll(spoken).toEqual(['5 kilos', '7 kilos'])

  const order = async (): Promise<string[]> => (await ask<Desk>(`editions/${edition}`)).houseStyle.rules.map(({ does }) => does)
  const at = (await order()).indexOf('own')
  await page.getByRole('button', { name: /^Own rule/u }).press('Alt+ArrowUp')
  await expect.poll(async () => (await order()).indexOf('own')).toBe(at - 1)
  await expect(page.getByRole('button', { name: /^Own rule/u })).toBeFocused()

  // Dragged to the top.
  const item = (text: RegExp) => page.locator('.rules').getByRole('listitem').filter({ hasText: text })
  await item(/^Emoji/u).scrollIntoViewIfNeeded()
  const [from, to] = await Promise.all([item(/^Own rule/u).locator('.grip').boundingBox(), item(/^Emoji/u).boundingBox()])
  await page.mouse.move(from!.x + 6, from!.y + 8)
  await page.mouse.down()
  await page.mouse.move(to!.x + 12, to!.y + 20, { steps: 12 })
  await page.mouse.move(to!.x + 12, to!.y + 4, { steps: 4 })
  await page.mouse.up()
  await expect.poll(async () => (await order())[0]).toBe('own')
})

test('a house style is shared, copied, and goes out and in as a file', async ({ page }) => {
  const first = await open('Shared one')
  const second = await open('Shared two')
  const { houseStyleId } = await ask<Desk>(`editions/${first.edition}`)
  await ask(`editions/${second.edition}/operations`, { window: 'a-window-that-shares', operations: [{ op: 'chooseHouseStyle', houseStyleId }] })
  await page.goto(`/productions/${second.edition}/words?view=style`)
  await expect(page.getByText('1 other production has this house style too')).toBeVisible()
  await page.getByRole('checkbox', { name: 'Units is on' }).check()
  await expect.poll(first.spoken).toEqual(['five kilograms', 'seven kilograms'])

  await page.getByRole('button', { name: 'Copy for this production' }).click()
  await expect(page.getByText('other production has')).toHaveCount(0)
  await page.getByRole('checkbox', { name: 'Units is on' }).uncheck()
  await expect.poll(second.spoken).toEqual([])
  expect(await first.spoken()).toEqual(['five kilograms', 'seven kilograms'])

  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export' }).click()
  const style = JSON.parse(await readFile(await (await download).path(), 'utf8')) as HouseStyle
  expect(style.rules.find(rule => rule.does === 'measures')?.on).toBe(false)
  const bring = async (value: unknown): Promise<void> => page.getByLabel('File of a house style').setInputFiles({ name: 'style.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(value)) })
  await bring({ rules: [{ id: 'x', on: true, does: 'ellipsis', restMs: -1 }] })
  await expect(page.getByText('rules.0.restMs must be >= 0')).toBeVisible()
  await bring({ rules: [{ id: 'u', on: true, does: 'measures' }] })
  await expect.poll(second.spoken).toEqual(['five kilograms', 'seven kilograms'])
  await page.getByRole('button', { name: /^Undo /u }).click()
  await expect.poll(second.spoken).toEqual([])
})

test('the page says why a word is said as it is', async ({ page }) => {
  const { edition } = await open('Reasons')
  await ask(`editions/${edition}/operations`, { window: 'test-window', operations: [
    { op: 'setHouseStyle', patch: { rules: { a: { id: 'a', on: true, does: 'abbreviations' }, o: { id: 'o', on: true, does: 'own', find: 'Doctor', say: 'Surgeon', restAfterMs: 300 } }, order: ['a', 'o'] } },
    { op: 'setWord', id: '01890000-0000-7000-8000-000000000001', shared: false, entry: { graphemes: ['Surgeon'], language: 'en', said: [{ by: 'ipa', text: 'ˈsɜːdʒən' }] } },
  ] })
  await page.goto(`/productions/${edition}/script`)
  await expect(page.locator('.ruled-rest')).toHaveAttribute('data-rest', '300')
  await page.getByText('Dr. Ann').click({ position: { x: 12, y: 12 } })
  await page.getByRole('button', { name: 'Why does it say that?' }).click()
  const chain = page.getByRole('list', { name: 'Why it is said so' }).getByRole('listitem')
  await expect(chain).toHaveText([/written\s*Dr\./u, /Abbreviations\s*Doctor/u, /Own rule\s*Surgeon\s*rest 300 ms/u, /Wordbook: Surgeon\s*\/ˈsɜːdʒən\//u, /the voice is given\s*<phoneme ph="ˈsɜːdʒən">Surgeon<\/phoneme>/u, /it says\s*\/ˈsɜːdʒən\//u])
})
