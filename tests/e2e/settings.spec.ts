import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import type { AccountsView } from '#shared/api'
import { address, ask, makeProduction, removeProductionOf } from './support'

const text = '# Skeps\n\nStraw hives were cut open once a year.\n\nNobody makes them now, but for show.\n'
/** Of the simulated service, as its folder has it. */
const simulatedKey = async (): Promise<string> => (JSON.parse(await readFile(join(process.env['QUILL_TEST_DATA']!, 'speech-service/settings.json'), 'utf8')) as { key: string }).key

test.afterEach(() => ask('accounts/netvoice', undefined, 'DELETE'))

test('a service gets an account, its voice reads a production, and its bill has what was read', async ({ page }) => {
  const production = await makeProduction('Skeps of straw', text)
  const { simulated } = await ask<AccountsView>('accounts')
  await page.goto(address())
  await page.getByRole('link', { name: 'Settings' }).click()
  await page.getByRole('button', { name: 'Use the simulated service' }).click()
  await expect(page.getByRole('status')).toHaveText('It answers: 7 voices, 3,000 characters in a request.')
  await expect(page.getByLabel('Address')).toHaveValue(simulated!)
  await expect(page.getByLabel('Key', { exact: true })).toHaveValue('')

  await page.goto(`${address()}/productions/${production}/cast`)
  await expect(page.getByRole('row', { name: /Avocet.*fine: €16\.00 a million characters/u })).toBeVisible()
  await page.getByRole('button', { name: 'Use this voice: Linnet' }).click()
  await expect(page.getByRole('row', { name: /Linnet/u })).toContainText('speaks')
  await page.getByRole('link', { name: /^Reading/u }).click()
  await page.getByRole('button', { name: /^Read \d/u }).click()
  await expect(page.getByRole('heading', { name: 'All read' })).toBeVisible()
  const bill = (await (await fetch(`${simulated!}/bill.csv`)).text()).trim().split('\n').filter(line => line.includes('en-gb-linnet'))
  expect(bill).toHaveLength(1)
  expect(bill[0]).toContain('plain')
  await removeProductionOf(production)
})

test('a key that is refused is named as such, kept from every page, and a reading stops with the reason', async ({ page }) => {
  const { simulated } = await ask<AccountsView>('accounts')
  await ask('accounts/netvoice/simulated', {})
  const production = await makeProduction('Skeps of rye', text.replace('Straw', 'Rye'))
  await page.goto(`${address()}/productions/${production}/cast`)
  await page.getByRole('button', { name: 'Use this voice: Linnet' }).click()
  await expect(page.getByRole('row', { name: /Linnet/u })).toContainText('speaks')

  await page.goto(`${address()}/settings`)
  await page.getByLabel('Key', { exact: true }).fill('a-wrong-key')
  await page.getByRole('button', { name: 'Save and try it' }).click()
  await expect(page.getByText('The speech service does not know the key. Enter it again on the Settings page.')).toBeVisible()
  expect(await page.content()).not.toContain(await simulatedKey())

  await page.goto(`${address()}/productions/${production}/reading`)
  await page.getByRole('button', { name: /^Read \d/u }).click()
  await expect(page.getByText('The speech service does not know the key.').first()).toBeVisible()

  // With the right one it goes on.
  await page.goto(`${address()}/settings`)
  await expect(page.getByLabel('Address')).toHaveValue(simulated!)
  await page.getByLabel('Key', { exact: true }).fill(await simulatedKey())
  await page.getByRole('button', { name: 'Save and try it' }).click()
  await expect(page.getByRole('status')).toContainText('It answers')
  await page.goto(`${address()}/productions/${production}/reading`)
  await page.getByRole('button', { name: /^Read \d/u }).click()
  await expect(page.getByRole('heading', { name: 'All read' })).toBeVisible()
  await removeProductionOf(production)
})

test('an account is removed after a question', async ({ page }) => {
  await ask('accounts/netvoice/simulated', {})
  await page.goto(`${address()}/settings`)
  await page.getByRole('button', { name: 'Remove the account' }).click()
  await page.getByRole('button', { name: 'Remove it', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Use the simulated service' })).toBeVisible()
  expect((await ask<AccountsView>('accounts')).accounts).toEqual([{ engine: 'netvoice', name: 'Speech service', address: null }])
})
