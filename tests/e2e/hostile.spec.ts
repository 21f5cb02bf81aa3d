import { expect, test } from '@playwright/test'
import { hostileFiles } from '../support/hostile'
import { address } from './support'

test('a file that cannot be read is refused on the spot, with what to do; the server answers others meanwhile', async ({ page }) => {
  // The command line is given all of them: tests/unit/cli/hostile.test.ts.
  const files = (await hostileFiles()).filter(file => /^(?:binary|encrypted|bomb|entities)/u.test(file.name))
  expect(files).toHaveLength(4)
  for (const { name, bytes, says } of files) {
    await page.goto(address())
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Bring in a document' }).click()
    await (await chooser).setFiles({ name, mimeType: 'application/octet-stream', buffer: bytes })
    expect((await fetch(`${address()}/api/health`)).status).toBe(200)
    await expect(page.getByRole('alert')).toHaveText(says)
  }
})
