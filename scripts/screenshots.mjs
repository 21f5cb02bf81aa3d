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

async function upload(name, body = readFileSync(join(root, 'demo/files', name))) {
  const answer = await fetch(`${address}/api/manuscripts?name=${name}`, { method: 'POST', body })
  return (await answer.json()).id
}

/** The handbook as its author sends it again, months later. */
function newVersion() {
  const paragraphs = readFileSync(join(root, 'demo/files/the-marrow-lane-year.md'), 'utf8')
    .replace('not one of them stopped to be looked at', 'not one of them stopped to be looked at by us').split('\n\n')
  paragraphs[12] = paragraphs[12].replace('.', ', as everybody in the lane will tell you.')
  paragraphs.splice(22, 1)
  paragraphs.splice(30, 0, 'A swarm that has found a chimney is no longer your swarm. Tell the owner of the chimney, and bring a cake.')
  return paragraphs.join('\n\n')
}

const stale = demo.parts.find(part => part.state === 'stale') ?? demo.parts[0]
const production = `${address}/productions/${demo.editionId}`
const views = {
  shelf: async () => page.goto(`${address}/`),
  intake: async () => {
    await page.goto(`${address}/intake/${await upload('the-marrow-lane-year.md')}`)
    await page.getByRole('button', { name: /^Accept/ }).waitFor()
  },
  deck: async () => {
    await page.goto(`${address}/intake/${await upload('the-first-spring-inspection.pptx')}`)
    await page.getByRole('button', { name: 'Five questions for every frame' }).click()
  },
  version: async () => {
    await page.goto(`${production}/version/${await upload('the-marrow-lane-year-2.md', newVersion())}`)
    await page.getByRole('button', { name: /^Take over/ }).waitFor()
  },
  script: async () => {
    await page.goto(`${production}/script?part=${stale.id}`)
    await page.locator('.ProseMirror .from-rule').first().click()
    await page.getByRole('button', { name: 'Why does it say that?' }).click()
    await page.getByRole('list', { name: 'Why it is said so' }).waitFor()
  },
  directions: async () => {
    await page.goto(`${production}/script?part=${demo.parts.find(part => part.label === 'A Quarrel over Supers').id}`)
    await page.locator('.ProseMirror .emphasis-strong').click()
    await page.locator('.cards li').first().waitFor()
  },
  menu: async () => {
    await page.keyboard.press('Control+.')
    await page.getByRole('menu').waitFor()
    await page.keyboard.press('a')
    await page.getByRole('dialog').waitFor()
  },
  ssml: async () => {
    await page.goto(`${production}/script?part=${demo.parts.find(part => part.label === 'A Quarrel over Supers').id}`)
    await page.locator('.ProseMirror p').nth(1).waitFor()
    await page.getByRole('button', { name: 'SSML' }).click()
    await page.getByRole('combobox', { name: 'SSML of' }).selectOption('part')
    const editor = page.getByRole('textbox', { name: 'SSML' })
    await editor.getByText('half full').click()
    await page.keyboard.insertText('<pause/>')
    await page.getByRole('button', { name: /Error/ }).first().waitFor()
  },
  find: async () => {
    await page.goto(`${production}/script?part=${demo.parts.find(part => part.label === 'Lime Flow').id}`)
    await page.locator('.ProseMirror p').nth(1).click()
    await page.keyboard.press('Control+Shift+f')
    await page.getByRole('searchbox', { name: 'Find', exact: true }).fill('honey')
    await page.getByRole('textbox', { name: 'Replace with' }).fill('lime honey')
    await page.locator('.hit').first().waitFor()
  },
  census: async () => {
    await page.goto(`${production}/words`)
    await page.getByRole('button', { name: / Not in the dictionary, / }).first().click()
    await page.locator('.row .said .serif').first().waitFor()
  },
  style: async () => {
    await page.goto(`${production}/words?view=style`)
    await page.getByRole('button', { name: /^Units/ }).first().click()
    await page.locator('.places li').first().waitFor()
  },
  wordbook: async () => {
    await page.goto(`${production}/words?view=wordbook`)
    await page.locator('td').first().waitFor()
  },
  cast: async () => {
    await page.goto(`${production}/cast`)
    await page.locator('button:enabled[aria-label^="Hear "]').first().waitFor()
  },
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
        if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').match(/dist\/(?!reader|task)\w+-child\.mjs/)) process.kill(Number(pid), 'SIGKILL')
      } catch { /* ended meanwhile */ }
    }
    await page.waitForTimeout(pauseMs)
  }
}

Object.assign(views, {
  settings: async () => {
    const { accounts: [{ engine }] } = await (await fetch(`${address}/api/accounts`)).json()
    await fetch(`${address}/api/accounts/${engine}/simulated`, { method: 'POST' })
    await page.goto(`${address}/settings`)
    await page.getByRole('status').waitFor()
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
  report: async () => {
    // Somebody has asked for a rest of twelve seconds, which the profile refuses.
    const { passages } = await (await fetch(`${address}/api/parts/${demo.parts[2].id}`)).json()
    const passage = passages.find(each => each.kind === 'paragraph' && each.content.runs.length === 1 && each.content.runs[0].text.includes('. '))
    const [{ text, on }] = passage.content.runs
    const at = text.indexOf('. ') + 2
    const content = { ...passage.content, runs: [{ text: text.slice(0, at), on }, { text: '', on, point: 'long' }, { text: text.slice(at), on }], directions: [{ id: 'long', kind: 'rest', ms: 12_000 }] }
    await page.request.post(`${address}/api/editions/${demo.editionId}/operations`, { data: { window: 'screenshots', operations: [{ op: 'setContent', passageId: passage.id, revision: passage.revision, content }] } })
    await page.goto(`${production}/reading`)
    await page.getByRole('button', { name: /^Read \d/ }).click()
    await page.getByRole('heading', { name: 'All read' }).waitFor()
    await page.goto(`${production}/delivery`)
    await page.getByRole('button', { name: /^Make \d/ }).click()
    await page.getByRole('link', { name: /^Decide about/ }).click()
    await page.locator('ins').first().waitFor()
  },
  health: async () => page.goto(`${address}/health`),
  storage: async () => page.goto(`${address}/storage`),
})
for (const [name, show] of Object.entries(views)) {
  if (only.length > 0 && !only.includes(name)) continue
  await show()
  if (name !== 'reading') await page.waitForTimeout(1500)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}
await browser.close()
