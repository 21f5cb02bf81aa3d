import { expect, test } from '@playwright/test'
import { hostileFiles } from '../support/hostile'
import { address } from './support'

test('a file that cannot be read is refused on the spot, with what to do; the server answers others meanwhile', async ({ page }) => {
  await page.goto(address())
  for (const { name, bytes, says } of await hostileFiles()) {
    const answered = page.waitForResponse(response => response.url().includes('/api/manuscripts'))
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Bring in a document' }).click()
    await (await chooser).setFiles({ name, mimeType: 'application/octet-stream', buffer: bytes })
    expect((await fetch(`${address()}/api/health`)).status).toBe(200)
    expect((await answered).status()).toBeGreaterThanOrEqual(400)
    await expect(page.getByRole('alert')).toHaveText(says)
  }
})
