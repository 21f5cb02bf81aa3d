import { expect, test } from '@playwright/test'
import type { DeliveryDesk } from '#shared/api'
import { ask, bringIn, readAll } from './support'

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

  // By keyboard: the profiles are one group of choices.
  await page.getByRole('radio', { name: /^Book, retail/u }).focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('radio', { name: /^Course clips/u })).toBeChecked()
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
