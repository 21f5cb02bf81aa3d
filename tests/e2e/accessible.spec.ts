import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Locator, type Page } from '@playwright/test'
import { address, bringIn, doCommand, passage, readAll, takeIn } from './support'

// Every screen by the rules of axe-core (WCAG 2.2 AA and its best practices, and that buttons are called what is written on them), as it is and with what opens on it.

/** In the dark theme only the colours are others. */
const rulesOf = {
  paper: { rules: { 'label-content-name-mismatch': { enabled: true } } },
  lamp: { runOnly: ['color-contrast'] },
}
type Theme = keyof typeof rulesOf
const themes = ['paper', 'lamp'] as const

async function violations(page: Page, theme: Theme): Promise<string[]> {
  const { violations: found } = await new AxeBuilder({ page }).options(rulesOf[theme]).analyze()
  return found.flatMap(({ id, nodes }) => nodes.map(node => `${id}: ${node.target.join(' ')} ${node.html.slice(0, 120)}`))
}

type State = readonly [name: string, open: (page: Page) => Promise<unknown>]

const text = '# Seen\n\n## Seen one\n\nZorblax met Dr. Quuxa at 12 kg, and the EFB came in 1987.\n\n- Seen item\n\n> Said in Seen.\n\n## Seen two\n\nIt was read.\n'
const name = `Accessible ${process.pid}`
let production = ''
let intake = ''

// A colour on its way from one state to another is none of the theme's.
test.use({ contextOptions: { reducedMotion: 'reduce' } })

/** Closes the dialog that is open, and opens another. */
async function openDialog(page: Page, button: string | RegExp, dialog: string | RegExp): Promise<void> {
  await closeDialog(page)
  await page.getByRole('button', { name: button }).first().click()
  await expect(page.getByRole('dialog').getByText(dialog).first()).toBeVisible()
}

async function closeDialog(page: Page): Promise<void> {
  if (await page.getByRole('dialog').count() > 0) await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

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
    ['with several parts chosen, and their names', async page => {
      await closeDialog(page)
      await doCommand(page, 'Choose several parts')
      await page.getByRole('button', { name: 'all', exact: true }).click()
      await openDialog(page, 'Rename …', /^Rename/u)
    }],
    ['with the dialog that divides anew', async page => {
      await closeDialog(page)
      await doCommand(page, 'Divide the script anew')
      await expect(page.getByRole('dialog').getByRole('button', { name: /^Divide into/u })).toBeVisible()
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
      await expect(page.getByRole('link', { name: /Download 2 files as ZIP/u }).first()).toBeVisible({ timeout: 60_000 })
    }],
    ['with the form of a profile', page => openDialog(page, 'Make a copy …', /profile/iu)],
    ['with the announcements', page => openDialog(page, 'Change the announcements …', 'Announcements')],
    ['with a delivery about to be removed', page => openDialog(page, 'Remove …', /^Remove delivery/u)],
    ['its report', async page => {
      await closeDialog(page)
      await page.getByRole('link', { name: /^Report/u }).click()
      await expect(page.getByText(/pass “/u)).toBeVisible()
    }],
  ],
}

for (const theme of themes) {
  test.describe(`in the theme ${theme}`, () => {
    test.beforeEach(({ page }) => page.addInitScript(chosen => { localStorage.setItem('theme', chosen) }, theme))

    for (const [stage, states] of Object.entries(stages)) {
      test(`the ${stage} page keeps the rules of accessibility`, async ({ page }) => {
        await page.goto(`${production}/${stage}`)
        for (const [name, open] of states) {
          await open(page)
          expect.soft(await violations(page, theme), name).toEqual([])
        }
      })
    }

    test('shelf, intake, new version, storage and health keep the rules of accessibility', async ({ page }) => {
      const [document, version] = [page.getByRole('button', { name: /^Accept/u }), page.getByRole('button', { name: /^Take over/u })]
      const heading = (name: string): Locator => page.getByRole('heading', { name, exact: true })
      for (const [path, shown] of [
        [`${address()}/settings`, heading('Settings')], [`${address()}/storage`, heading('Storage')], [`${address()}/health`, heading('Health')], [`${address()}/intake/${intake}`, document], [`${production}/version/${intake}`, version], [address(), heading('Shelf')],
      ] as const) {
        await page.goto(path)
        await expect(shown).toBeVisible()
        expect.soft(await violations(page, theme), path).toEqual([])
      }
      await openDialog(page, `Remove ${name}`, 'For 30 days')
      expect.soft(await violations(page, theme), 'a production about to be removed').toEqual([])
    })
  })
}
