import { expect, test, type Locator, type Page } from '@playwright/test'
import { address, ask, makeProduction, markdown, readAll, takeIn } from './support'

// Every screen at the narrow sizes, in both themes, and the whole job by keyboard. A new screen is added to this list.

let editionId = ''
let manuscriptId = ''
let name = ''
const production = (stage: string): string => `/productions/${editionId}/${stage}`
const screens: Readonly<Record<string, { readonly path: () => string, readonly shows: (page: Page) => Locator }>> = {
  'Shelf': { path: () => '/', shows: page => page.getByRole('button', { name: 'Bring in a document' }) },
  'Intake of a document': { path: () => `/intake/${manuscriptId}`, shows: page => page.getByRole('button', { name: /^Accept/u }) },
  'A new version of a document': { path: () => production(`version/${manuscriptId}`), shows: page => page.getByRole('button', { name: /^Take over/u }) },
  'Intake': { path: () => production('intake'), shows: page => page.getByRole('main') },
  'Script': { path: () => production('script'), shows: page => page.getByRole('button', { name: 'Play' }) },
  'Census': { path: () => production('words'), shows: page => page.getByRole('button', { name: /^All that is open/u }) },
  'Wordbook': { path: () => production('words?view=wordbook'), shows: page => page.getByRole('button', { name: 'Add the word' }) },
  'House style': { path: () => production('words?view=style'), shows: page => page.getByRole('button', { name: 'Add a rule' }) },
  'Narrator check': { path: () => production('words?view=narrator'), shows: page => page.getByLabel('Longest sentence, words') },
  'Cast': { path: () => production('cast'), shows: page => page.getByRole('button', { name: /^Hear/u }).first() },
  'Reading': { path: () => production('reading'), shows: page => page.getByRole('button', { name: /^Read \d/u }) },
  'Delivery': { path: () => production('delivery'), shows: page => page.getByRole('button', { name: /^Make \d/u }) },
  'Settings': { path: () => '/settings', shows: page => page.getByRole('button', { name: 'Use the simulated service' }) },
  'Storage': { path: () => '/storage', shows: page => page.getByText('Database', { exact: true }) },
  'Health': { path: () => '/health', shows: page => page.getByText('Queue', { exact: true }) },
}

test.beforeAll(async () => {
  // New words in every process, so that there is something to read.
  name = `Screens ${test.info().workerIndex}`
  editionId = await makeProduction(name, `${markdown(name, 3)}\n## A label that is long enough to run out of any column that is made for shorter ones\n\nUnread.\n`)
  const { id } = await takeIn('screens-and-a-rather-long-name-of-a-file.md', markdown(`${name} two`))
  manuscriptId = id
  await readAll(editionId)
  await ask(`editions/${editionId}/deliveries`, {})
  await expect.poll(async () => (await ask<{ deliveries: { state: string }[] }>(`editions/${editionId}/run-sheet`)).deliveries[0]?.state).toBe('done')
  const { parts } = await ask<{ parts: { id: string, revision: number }[] }>(`editions/${editionId}`)
  const { passages } = await ask<{ passages: { id: string, revision: number }[] }>(`parts/${parts[0]!.id}`)
  const content = { version: 2, runs: [{ text: 'Changed, and so it is stale.', on: [] }], directions: [] }
  await ask(`editions/${editionId}/operations`, { window: 'the-screens', operations: [{ op: 'setContent', passageId: passages[1]!.id, revision: passages[1]!.revision, content }] })
})

async function open(page: Page, screen: string): Promise<void> {
  const { path, shows } = screens[screen]!
  await page.goto(`${address()}${path()}`)
  await shows(page).waitFor()
}

/** What of the visible text and controls sticks out of the window to the side, where nothing scrolls. */
function sticksOut(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const scrolls = (element: Element): boolean => {
      for (let above: Element | null = element.parentElement; above !== null && above !== document.body; above = above.parentElement) {
        if (/auto|scroll/u.test(getComputedStyle(above).overflowX) && above.scrollWidth > above.clientWidth) return true
      }
      return false
    }
    const out = [...document.querySelectorAll('main *, header *, .reel-row *, aside *')].filter(element => {
      const { left, right, width, height } = element.getBoundingClientRect()
      return width > 2 && height > 2 && (right > innerWidth + 1 || left < -1) && element.checkVisibility() && element.closest('.sr-only, svg, [aria-hidden="true"], thead') === null && !scrolls(element)
    })
    const page = document.scrollingElement!
    return [...out.map(element => `${element.tagName}.${element.className} ${element.textContent?.slice(0, 40)}`), ...(page.scrollWidth > innerWidth + 1 ? ['the page scrolls sideways'] : [])]
  })
}

for (const [width, height] of [[640, 400], [320, 640]] as const) {
  test.describe(`at ${width} × ${height}`, () => {
    test.use({ viewport: { width, height } })
    for (const screen of Object.keys(screens)) {
      test(`${screen}: nothing sticks out to the side, and its main thing can be reached`, async ({ page }) => {
        await open(page, screen)
        expect(await sticksOut(page)).toEqual([])
        await screens[screen]!.shows(page).scrollIntoViewIfNeeded()
        await expect(screens[screen]!.shows(page)).toBeInViewport()
      })
    }

    test('Script: parts and margin are drawers, the reel is one line, and there is room for the text', async ({ page }) => {
      await open(page, 'Script')
      expect((await page.locator('.page-column').boundingBox())!.height).toBeGreaterThan(height * 0.4)
      expect((await page.locator('.reel-row').boundingBox())!.height).toBeLessThanOrEqual(52)
      await page.getByRole('button', { name: 'Parts' }).click()
      await page.getByText(`${name} chapter 2`).click()
      await expect(page.locator('.ProseMirror')).toContainText(`${name} 2`)
      await page.getByRole('button', { name: 'Margin' }).click()
      await page.getByRole('tab', { name: 'Rests' }).click()
      await expect(page.getByText('Between sentences')).toBeVisible()
      expect(await sticksOut(page)).toEqual([])
    })
  })
}

/** Every pair of a visible text's colour and the ground under it that has less contrast than 4.5 (WCAG 2.1, 1.4.3), with an example. */
function faintTexts(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    type Colour = [r: number, g: number, b: number, a: number]
    const canvas = document.createElement('canvas').getContext('2d', { willReadFrequently: true })!
    const parse = (text: string): Colour => {
      canvas.clearRect(0, 0, 1, 1)
      canvas.fillStyle = text
      canvas.fillRect(0, 0, 1, 1)
      const [r, g, b, a] = canvas.getImageData(0, 0, 1, 1).data
      return [r!, g!, b!, a! / 255]
    }
    const over = ([r, g, b, a]: Colour, [R, G, B]: Colour): Colour => [r * a + R * (1 - a), g * a + G * (1 - a), b * a + B * (1 - a), 1]
    const luminance = (colour: Colour): number => {
      const [r, g, b] = colour.slice(0, 3).map(value => value / 255 <= 0.04045 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4) as [number, number, number]
      return 0.2126 * r + 0.7152 * g + 0.0722 * b
    }
    const ground = (element: Element | null): Colour => {
      if (element === null) return [255, 255, 255, 1]
      const own = parse(getComputedStyle(element).backgroundColor)
      return own[3] === 1 ? own : over(own, ground(element.parentElement))
    }
    const opacity = (element: Element | null): number => element === null ? 1 : Number(getComputedStyle(element).opacity) * opacity(element.parentElement)
    const faint = new Map<string, string>()
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    for (let text = texts.nextNode(); text !== null; text = texts.nextNode()) {
      const element = text.parentElement!
      if (text.textContent!.trim() === '' || !element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) || element.closest('.sr-only, script, style, [disabled], .v-btn--disabled') !== null) continue
      const under = ground(element)
      const [r, g, b, a] = parse(getComputedStyle(element).color)
      const shown = over([r, g, b, a * opacity(element)], under)
      const [light, dark] = [luminance(shown), luminance(under)].sort((x, y) => y - x) as [number, number]
      const contrast = (light + 0.05) / (dark + 0.05)
      if (contrast < 4.5) faint.set(`${shown.map(Math.round).join(',')} on ${under.map(Math.round).join(',')}`, `${contrast.toFixed(2)} ${text.textContent!.trim().slice(0, 40)}`)
    }
    return [...faint].map(([pair, example]) => `${pair}: ${example}`)
  })
}

test.describe('contrast', () => {
  // A colour on its way from one state to another is none of the theme's.
  test.use({ contextOptions: { reducedMotion: 'reduce' } })
  for (const theme of ['paper', 'lamp'] as const) {
    test(`in the theme ${theme} every text stands out from its ground on every screen`, async ({ page }) => {
      await page.addInitScript(chosen => { localStorage.setItem('theme', chosen) }, theme)
      const faint: string[] = []
      for (const screen of Object.keys(screens)) {
        await open(page, screen)
        faint.push(...(await faintTexts(page)).map(text => `${screen}: ${text}`))
      }
      expect(faint).toEqual([])
    })
  }
})

/** More than anybody has the patience for. */
const mostSteps = 150

/** Moves on with Tab until something has the focus, and expects that this is seen. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  for (let step = 0; step < mostSteps; step += 1) {
    if (await wanted.evaluateAll(elements => elements.some(element => element === document.activeElement))) {
      const outlined = await page.evaluate(() => {
        for (let element: Element | null = document.activeElement; element !== null; element = element.parentElement) {
          const { outlineStyle, outlineWidth } = getComputedStyle(element)
          if (outlineStyle !== 'none' && outlineWidth !== '0px') return true
        }
        return document.activeElement!.closest('.v-field--focused, .ProseMirror') !== null
      })
      expect(outlined).toBe(true)
      return
    }
    await page.keyboard.press('Tab')
  }
  throw new Error(`Tab never came to ${wanted}.`)
}

test('the whole job is done with the keyboard alone', async ({ page }) => {
  await page.goto(address())
  await page.getByRole('button', { name: 'Bring in a document' }).waitFor()
  const press = async (wanted: Locator): Promise<void> => {
    await wanted.first().waitFor()
    await tabTo(page, wanted)
    await page.keyboard.press('Enter')
  }
  const chooser = page.waitForEvent('filechooser')
  await press(page.getByRole('button', { name: 'Bring in a document' }))
  await (await chooser).setFiles({ name: 'keys.md', mimeType: 'text/markdown', buffer: Buffer.from(markdown('Keys', 2)) })
  await press(page.getByRole('button', { name: /^Accept \d+ parts/u }))

  await page.locator('.ProseMirror').waitFor()
  for (let area = 0; area < 4 && !await page.locator('.ProseMirror').evaluate(element => element.contains(document.activeElement)); area += 1) await page.keyboard.press('F6')
  await page.keyboard.press('Control+Home')
  await page.keyboard.press('End')
  await page.keyboard.type(' By keys')
  await expect(page.locator('.status')).toHaveText('Saved')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('PageDown')
  await expect(page.locator('.ProseMirror')).toContainText('Keys 1')

  await press(page.getByRole('link', { name: /^Reading/u }))
  await press(page.getByRole('button', { name: /^Read \d/u }))
  await page.getByRole('heading', { name: 'All read' }).waitFor()
  await press(page.getByRole('link', { name: 'Delivery' }))
  await press(page.getByRole('button', { name: /^Make \d/u }))
  await page.getByRole('link', { name: /as ZIP/u }).waitFor()
  const download = page.waitForEvent('download')
  await press(page.getByRole('link', { name: /as ZIP/u }))
  expect((await download).suggestedFilename()).toMatch(/\.zip$/u)
})
