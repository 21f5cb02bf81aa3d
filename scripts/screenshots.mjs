// Takes the pictures of docs/screenshots from a running server with the demo: node scripts/screenshots.mjs [folder] [name …]
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { launchOptions } from './browser.mjs'
import { root, variable } from './paths.mjs'

const address = readFileSync(join(variable, 'address'), 'utf8').trim()
const [folder = join(root, 'docs/screenshots'), ...only] = process.argv.slice(2)
mkdirSync(folder, { recursive: true })

const browser = await chromium.launch(launchOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light', reducedMotion: 'reduce' })
page.on('console', message => { if (message.type() === 'error') console.error(message.text()) })
page.on('pageerror', error => console.error(error.message))
const shelf = await (await fetch(`${address}/api/editions`)).json()
const demo = shelf.find(entry => entry.title === 'The Marrow Lane Year')

async function upload() {
  const file = join(root, 'demo/files/the-marrow-lane-year.md')
  const answer = await fetch(`${address}/api/manuscripts?name=the-marrow-lane-year.md`, { method: 'POST', body: readFileSync(file) })
  return (await answer.json()).id
}

const stale = demo.parts.find(part => part.state === 'stale') ?? demo.parts[0]
const production = `${address}/productions/${demo.editionId}`
const views = {
  shelf: async () => page.goto(`${address}/`),
  intake: async () => page.goto(`${address}/intake/${await upload()}`),
  script: async () => {
    await page.goto(`${production}/script?part=${stale.id}`)
    await page.locator('.ProseMirror p').nth(3).click({ position: { x: 80, y: 60 } })
  },
  cast: async () => page.goto(`${production}/cast`),
  reading: async () => {
    await page.goto(`${production}/reading`)
    await page.getByRole('button', { name: /^Read \d/ }).click()
    await page.locator('.figures', { hasText: /[1-9]\d %/ }).waitFor()
  },
  delivery: async () => {
    await page.getByRole('heading', { name: 'All read' }).waitFor()
    await page.goto(`${production}/delivery`)
    await page.getByRole('button', { name: /^Make \d/ }).click()
    await page.getByRole('link', { name: /as ZIP/ }).waitFor()
    await page.goto(`${production}/script?part=${demo.parts[1].id}`)
    await page.locator('.ProseMirror p').nth(3).click()
    await page.keyboard.press('End')
    await page.keyboard.type(' Then sharpen the pencil.')
    await page.waitForTimeout(2000)
    await page.goto(`${production}/delivery`)
  },
}
for (const [name, show] of Object.entries(views)) {
  if (only.length > 0 && !only.includes(name)) continue
  await show()
  if (name !== 'reading') await page.waitForTimeout(1500)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
await browser.close()
