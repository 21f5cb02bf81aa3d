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
  const file = join(root, 'demo/the-marrow-lane-year.md')
  const answer = await fetch(`${address}/api/manuscripts?name=the-marrow-lane-year.md`, { method: 'POST', body: readFileSync(file) })
  return (await answer.json()).id
}

const stale = demo.parts.find(part => part.state === 'stale') ?? demo.parts[0]
const views = {
  shelf: async () => page.goto(`${address}/`),
  intake: async () => page.goto(`${address}/intake/${await upload()}`),
  script: async () => {
    await page.goto(`${address}/productions/${demo.editionId}/script?part=${stale.id}`)
    await page.locator('.ProseMirror p').nth(1).click({ position: { x: 80, y: 60 } })
  },
  cast: async () => page.goto(`${address}/productions/${demo.editionId}/cast`),
  reading: async () => page.goto(`${address}/productions/${demo.editionId}/reading`),
  delivery: async () => page.goto(`${address}/productions/${demo.editionId}/delivery`),
}
for (const [name, show] of Object.entries(views)) {
  if (only.length > 0 && !only.includes(name)) continue
  await show()
  await page.waitForTimeout(1200)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
await browser.close()
