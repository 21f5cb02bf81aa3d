// Takes the pictures of docs/screenshots from a running server with the demo: node scripts/screenshots.mjs [folder] [name …]
import { mkdirSync, readdirSync, readFileSync } from 'node:fs'
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

/** Kills the speech engine's children, and once more while their successors have the same sentences in hand. */
async function failEngineOnce() {
  for (const pauseMs of [100, 0]) {
    for (const pid of readdirSync('/proc').filter(name => /^\d+$/.test(name))) {
      try {
        if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('dist/espeak-child.mjs')) process.kill(Number(pid), 'SIGKILL')
      } catch { /* ended meanwhile */ }
    }
    await page.waitForTimeout(pauseMs)
  }
}

Object.assign(views, {
  conflict: async () => {
    await page.goto(`${production}/script?part=${demo.parts[2].id}`)
    const other = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await other.goto(`${production}/script?part=${demo.parts[2].id}`)
    // Both type before either has saved.
    await page.route('**/operations', async route => {
      await page.waitForTimeout(5000)
      await route.continue()
    })
    for (const [window, typed] of [[page, ' Wait for a dry day.'], [other, ' Never lift the crown board in rain.']]) {
      const passage = window.locator('.ProseMirror p').nth(1)
      const { width, height } = await passage.boundingBox()
      await passage.click({ position: { x: width - 3, y: height - 8 } })
      await window.keyboard.press('End')
      await window.keyboard.type(typed)
    }
    await page.locator('.conflict').waitFor()
    await page.unroute('**/operations')
    await other.close()
  },
  faults: async () => {
    const casting = (await (await fetch(`${address}/api/editions/${demo.editionId}`)).json()).casting
    const { voice, wordsPerMinute, pitchSemitones, gainDb } = casting
    await page.request.put(`${address}/api/editions/${demo.editionId}/casting`, { data: { voice, wordsPerMinute: wordsPerMinute + 3, pitchSemitones, gainDb } })
    await page.goto(`${production}/reading`)
    await page.getByRole('button', { name: /^Read \d/ }).click()
    await page.waitForTimeout(600)
    for (let time = 0; time < 3; time += 1) {
      await failEngineOnce()
      await page.waitForTimeout(400)
    }
    await page.locator('.faults').waitFor()
    await page.locator('.job').waitFor({ state: 'detached' })
  },
  health: async () => page.goto(`${address}/health`),
  storage: async () => page.goto(`${address}/storage`),
  lamp: async () => {
    await page.goto(`${production}/script?part=${stale.id}`)
    await page.getByRole('button', { name: 'Dark theme' }).click()
    await page.locator('.ProseMirror p').nth(3).click({ position: { x: 80, y: 60 } })
  },
})
for (const [name, show] of Object.entries(views)) {
  if (only.length > 0 && !only.includes(name)) continue
  await show()
  if (name !== 'reading') await page.waitForTimeout(1500)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
await browser.close()
