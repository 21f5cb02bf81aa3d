import { chromium, type Page } from '@playwright/test'
import { launchOptions } from '../scripts/browser.mjs'

const keys = 200
const keyEveryMs = 60

/** Does something in a page of Chromium as the users have it, 1280 × 800. */
export async function inBrowser<T>(action: (page: Page) => Promise<T>): Promise<T> {
  const browser = await chromium.launch(launchOptions)
  try {
    return await action(await browser.newPage({ viewport: { width: 1280, height: 800 } }))
  } finally {
    await browser.close()
  }
}

/** Types into the middle of a part; gives the 95th percentile of the times from a key to the paint after it, ms. */
export async function keyToPaint(page: Page, address: string): Promise<number> {
  await page.goto(address)
  const passages = page.locator('.ProseMirror .passage')
  await passages.first().waitFor()
  await passages.nth(Math.floor(await passages.count() / 2)).click()
  await page.evaluate(() => {
    const times: number[] = []
    Object.assign(window, { times })
    addEventListener('keydown', event => {
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel()
        // Comes after the frame was painted.
        port1.onmessage = () => { times.push(performance.now() - event.timeStamp) }
        port2.postMessage(null)
      })
    }, true)
  })
  for (let key = 0; key < keys; key += 1) await page.keyboard.press('abcde fghij'[key % 11]!, { delay: keyEveryMs })
  const times = await page.evaluate(() => (window as unknown as { times: number[] }).times)
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!
}

/** From the click on *Play* in a part that is not read to the time its first sound is due, ms. */
export async function clickToSound(page: Page, address: string): Promise<number> {
  await page.addInitScript(() => {
    const { start } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (when = 0, ...rest) {
      const dueIn = Math.max(0, when - this.context.currentTime) * 1000
      const noted = window as unknown as { firstSound?: number }
      noted.firstSound ??= performance.now() + dueIn
      start.call(this, when, ...rest)
    }
    addEventListener('click', event => { (window as unknown as { clicked: number }).clicked = event.timeStamp }, true)
  })
  await page.goto(address)
  await page.locator('.ProseMirror .passage').first().waitFor()
  await page.waitForTimeout(1000)
  await page.getByRole('button', { name: 'Play' }).click()
  await page.waitForFunction(() => 'firstSound' in window)
  return page.evaluate(() => {
    const { firstSound, clicked } = window as unknown as { firstSound: number, clicked: number }
    return firstSound - clicked
  })
}
