import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { address, bringIn, passage, readAll, takeIn } from './support'

// Every screen by the rules of axe-core (WCAG 2.2 AA and its best practices, and that buttons are called what is written on them), as it is and with what opens on it.

async function violations(page: Page): Promise<string[]> {
  const { violations: found } = await new AxeBuilder({ page }).options({ rules: { 'label-content-name-mismatch': { enabled: true } } }).analyze()
  return found.flatMap(({ id, nodes }) => nodes.map(node => `${id}: ${node.target.join(' ')} ${node.html.slice(0, 120)}`))
}

type State = readonly [name: string, open: (page: Page) => Promise<unknown>]

const text = '# Seen\n\n## Seen one\n\nZorblax met Dr. Quuxa at 12 kg, and the EFB came in 1987.\n\n- Seen item\n\n> Said in Seen.\n\n## Seen two\n\nIt was read.\n'
const name = `Accessible ${process.pid}`
let production = ''
let intake = ''

test.beforeAll(async ({ browser }) => {
  intake = (await takeIn('Seen again.md', text)).id
  const page = await browser.newPage()
  production = await bringIn(page, name, 2)
  await page.close()
  await readAll(production)
})

const stages: Readonly<Record<string, readonly State[]>> = {
  script: [
    ['as it is', page => expect(page.locator('.ProseMirror')).toBeVisible()],
    ['with the menu of directions', async page => {
      await passage(page, 'Said in').click()
      await page.keyboard.press('Home')
      await page.keyboard.press('Control+.')
      await expect(page.getByRole('menu', { name: 'Directions' })).toBeVisible()
    }],
    ['with the form of a pronunciation', async page => {
      await page.keyboard.press('p')
      await expect(page.getByRole('list', { name: 'Proposals' })).toBeVisible()
      await page.getByLabel('How it is said').selectOption('ipa')
    }],
    ['with find and replace, and the SSML view', async page => {
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'Find and replace' }).click()
      await page.getByRole('button', { name: 'SSML' }).click()
      await expect(page.getByRole('region', { name: 'SSML view' })).toBeVisible()
    }],
    ['with rests in the margin', async page => {
      await page.getByRole('button', { name: 'SSML' }).click()
      await page.getByRole('tab', { name: 'Rests' }).click()
    }],
    ['with the list of commands', async page => {
      await page.keyboard.press('Control+k')
      await expect(page.getByRole('option').first()).toBeVisible()
    }],
    ['with the help', async page => {
      await page.keyboard.press('Escape')
      await expect(page.getByRole('option')).toHaveCount(0)
      await page.getByRole('button', { name: 'Help' }).click()
      await page.getByRole('dialog', { name: 'Help' }).getByRole('tab', { name: 'Keys' }).click()
      await expect(page.getByRole('row', { name: /^Find a command/u })).toBeVisible()
    }],
  ],
  words: [
    ['the census', page => expect(page.getByRole('region', { name: 'Census' })).toBeVisible()],
    ['the wordbook', page => page.getByRole('button', { name: 'Wordbook', exact: true }).click()],
    ['the house style', page => page.getByRole('button', { name: 'House style', exact: true }).click()],
    ['the narrator check', page => page.getByRole('button', { name: 'Narrator check', exact: true }).click()],
  ],
  cast: [['as it is', page => expect(page.getByRole('heading', { name: 'Narrator' })).toBeVisible()]],
  reading: [['all read', page => expect(page.getByRole('heading', { name: 'All read' })).toBeVisible()]],
  delivery: [
    ['before a delivery', page => expect(page.getByRole('heading', { name: 'Run sheet' })).toBeVisible()],
    ['with a delivery', async page => {
      await page.getByRole('button', { name: /^Make 2 files/u }).click()
      await expect(page.getByRole('link', { name: /Download 2 files as ZIP/u })).toBeVisible({ timeout: 60_000 })
    }],
    ['its report', async page => {
      await page.getByRole('link', { name: /^Report/u }).click()
      await expect(page.getByText(/pass “/u)).toBeVisible()
    }],
  ],
}

for (const [stage, states] of Object.entries(stages)) {
  test(`the ${stage} page keeps the rules of accessibility`, async ({ page }) => {
    await page.goto(`${production}/${stage}`)
    for (const [name, open] of states) {
      await open(page)
      expect.soft(await violations(page), name).toEqual([])
    }
  })
}

test('shelf, intake, storage and health keep the rules of accessibility', async ({ page }) => {
  for (const [path, heading] of [['', 'Shelf'], ['storage', 'Storage'], ['health', 'Health']] as const) {
    await page.goto(`${address()}/${path}`)
    await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible()
    expect.soft(await violations(page), heading).toEqual([])
  }
  await page.goto(`${address()}/intake/${intake}`)
  await expect(page.getByRole('button', { name: /^Accept/u })).toBeVisible()
  expect.soft(await violations(page), 'intake').toEqual([])
})
