import { expect, test } from '@playwright/test'
import pg from 'pg'
import type { Desk } from '#shared/api'
import { address, ask, bringIn, productionOf } from './support'

/** Gives a production an edition in another language, of one sentence. */
async function addEdition(editionId: string, language: string, text: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['QUILL_TEST_DATABASE']! })
  await client.connect()
  try {
    const { rows: [edition] } = await client.query<{ id: string }>(
      'INSERT INTO editions (id, production_id, house_style_id, language, name_pattern) SELECT gen_random_uuid(), production_id, house_style_id, $2, name_pattern FROM editions WHERE id = $1 RETURNING id', [editionId, language])
    const { rows: [part] } = await client.query<{ id: string }>('INSERT INTO parts (id, edition_id, rank, kind, label) VALUES (gen_random_uuid(), $1, \'a0\', \'chapter\', $2) RETURNING id', [edition!.id, `In ${language}`])
    await client.query('INSERT INTO passages (id, part_id, rank, kind, content) VALUES (gen_random_uuid(), $1, \'a0\', \'paragraph\', $2)', [part!.id, { version: 2, runs: [{ text, on: [] }], directions: [] }])
  } finally {
    await client.end()
  }
}

test('the edition is chosen in the masthead, where there are several; removing one leaves the others', async ({ page }) => {
  const first = (await bringIn(page, 'Editions')).split('/').at(-1)!
  const { id } = await productionOf(first)
  // The address of the production, whichever edition was asked for.
  await expect(page).toHaveURL(new RegExp(`/productions/${id}/script`, 'u'))
  const chooser = page.getByRole('combobox', { name: 'Edition' })
  await expect(page.getByText('Editions chapter 1').first()).toBeVisible()
  await expect(chooser).toHaveCount(0)

  await addEdition(first, 'de', 'Die Bienen kamen heim.')
  await page.reload()
  await expect(chooser).toBeVisible()
  await chooser.selectOption({ label: 'German' })
  await expect(page.locator('.ProseMirror')).toHaveText(/Die Bienen kamen heim\./u)
  await expect(page).toHaveURL(/edition=/u)
  await page.getByRole('link', { name: 'Cast', exact: true }).click()
  await expect(page.locator('tr.used')).toContainText('German')
  await page.reload()
  await expect(page.locator('tr.used')).toContainText('German')
  await chooser.selectOption({ label: 'English' })
  await expect(page.locator('tr.used')).toContainText('Great Britain')

  await page.goto(address())
  await expect(page.getByRole('heading', { name: 'Editions' })).toHaveCount(2)
  await page.getByRole('listitem').filter({ hasText: 'Editions' }).filter({ hasText: 'German' }).getByRole('button', { name: 'Remove Editions' }).click()
  await expect(page.getByRole('dialog')).toContainText('Only the edition in German')
  await page.getByRole('button', { name: 'Remove edition', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Editions' })).toHaveCount(1)
  expect((await productionOf(first)).editions).toEqual([{ id: first, language: 'en' }])
  expect((await ask<Desk>(`editions/${first}`)).parts).toHaveLength(3)
})
