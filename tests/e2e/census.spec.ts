import { expect, test } from '@playwright/test'
import type { Desk, Page } from '#shared/api'
import { ask, makeProduction } from './support'

test.use({ baseURL: process.env['QUILL_ADDRESS'] })

const text = '# Doubts\n\nZorblax keeps bees. Zorblax’s EFB was bad.\n\nThey read of lead; Zorblax had read it. We met the Quuxa, you know.\n'

async function open(name: string) {
  const edition = await makeProduction(name, text.replace('Doubts', name))
  const { parts: [part] } = await ask<Desk>(`editions/${edition}`)
  return { edition, load: () => ask<Page>(`parts/${part!.id}`) }
}

test('the census lists what is doubtful, says it, sets it for all, at one place, or leaves it; what was decided stays', async ({ page }) => {
  const { edition, load } = await open('Doubts')
  await page.goto(`/productions/${edition}/words`)
  const entry = (name: RegExp) => page.getByRole('region', { name: 'Census' }).getByRole('button', { name })
  const zorblax = entry(/^Zorblax Not in the dictionary, 3 places/u)
  await expect(zorblax).toBeVisible()
  await expect(zorblax).toContainText(/\/.*zˈɔːblaks.*\//u)
  await expect(entry(/^EFB Acronym, 1 place/u)).toBeVisible()
  await expect(entry(/^lead noun Two pronunciations, 1 place/u)).toBeVisible()
  await expect(entry(/^read verb Two pronunciations, 1 place/u)).toBeVisible()
  await expect(entry(/^read past, participle Two pronunciations, 1 place/u)).toBeVisible()

  // Set for all: it goes, and the next is chosen.
  await zorblax.click()
  const heard = page.waitForResponse(response => response.url().endsWith('/hear'))
  await page.keyboard.press('h')
  expect((await heard).status()).toBe(200)
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Syllables' }).fill('ZOR-blaks')
  await page.getByRole('button', { name: 'Set for all 3' }).click()
  await expect(zorblax).toHaveCount(0)
  expect((await load()).said.filter(({ by }) => by === 'word').map(({ as, by }) => [as, by])).toEqual([['/ˈzɔːblaks/', 'word'], ['/ˈzɔːblaks/', 'word'], ['/ˈzɔːblaks/', 'word']])

  // Set at one place only: a direction in the script.
  await entry(/^read past/u).click()
  await page.getByRole('textbox', { name: 'Syllables' }).fill('RED')
  await page.getByRole('button', { name: 'Set only here' }).click()
  await expect(entry(/^read past/u)).toHaveCount(0)
  expect((await load()).passages.at(-1)!.content.directions.map(({ kind }) => kind)).toEqual(['phoneme'])
  await entry(/^read verb/u).click()
  await page.getByRole('button', { name: 'Leave here' }).click()
  await expect(entry(/^read /u)).toHaveCount(0)

  // Left as it is, by one key; it can be opened again, and is so after a reload.
  await entry(/^EFB /u).click()
  await page.keyboard.press('l')
  await expect(entry(/^EFB /u)).toHaveCount(0)
  await page.reload()
  await expect(entry(/^Quuxa /u)).toBeVisible()
  await expect(entry(/^EFB /u)).toHaveCount(0)
  await page.getByRole('button', { name: /^Left as it is/u }).click()
  await entry(/^EFB /u).click()
  await page.getByRole('button', { name: 'Open it again' }).click()
  await page.getByRole('button', { name: /^All that is open/u }).click()
  await expect(entry(/^EFB /u)).toBeVisible()
  await page.getByRole('button', { name: /^Undo decision: “/u }).click()
  await expect(entry(/^EFB /u)).toHaveCount(0)
})

test('the narrator check: a finding is mended in place, left unspoken, or left as it is', async ({ page }) => {
  const { edition, load } = await open('Narrator')
  await page.goto(`/productions/${edition}/words?view=narrator`)
  const findings = page.getByRole('region', { name: 'Narrator check' }).getByRole('listitem')
  await expect(findings).toHaveCount(2)
  await page.getByRole('button', { name: 'Change the text “We”' }).click()
  await page.getByRole('textbox', { name: 'Written instead' }).fill('Visitors')
  await page.getByRole('button', { name: 'Keep the change' }).click()
  await expect(findings).toHaveCount(1)
  await page.getByRole('button', { name: 'Leave as it is: “you know”' }).click()
  await expect(findings).toHaveCount(0)
  await expect(page.getByText('1 place left as they are')).toBeVisible()
  const [last] = (await load()).passages.slice(-1)
  expect(last!.content.runs.map(run => run.text).join('')).toBe('They read of lead; Zorblax had read it. Visitors met the Quuxa, you know.')
  await page.getByRole('button', { name: /^Undo decision: “/u }).click()
  await expect(findings).toHaveCount(1)
  await page.getByRole('button', { name: 'Leave it unspoken: “you know”' }).click()
  await expect.poll(async () => (await load()).passages.at(-1)!.content.directions.map(({ kind }) => kind)).toEqual(['leftOut'])
  await expect(findings).toHaveCount(0)
})
