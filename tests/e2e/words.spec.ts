import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { writtenText } from '#core/script/content'
import type { Page, WordsView } from '#shared/api'
import type { HearRequest } from '#shared/schemas'
import { ask, makeProduction } from './support'

test.use({ baseURL: process.env['QUILL_ADDRESS'] })

test('a word is respelt, shown in IPA, heard, and said so everywhere; only its sentences are read again; undo takes it back', async ({ page }) => {
  const edition = await makeProduction('Mites', '# Mites\n\nA varroa came. Then it went.\n\nNo other Varroa was there.\n')
  const { parts: [part] } = await ask<{ parts: { id: string }[] }>(`editions/${edition}`)
  const keys = async (): Promise<string[]> => (await ask<Page>(`parts/${part!.id}`)).utterances.map(utterance => utterance.key)
  const before = await keys()
  await page.goto(`/productions/${edition}/words?view=wordbook`)
  await expect(page.getByText('No words yet')).toBeVisible()
  await page.getByRole('textbox', { name: 'Written' }).fill('varroa')
  await page.getByRole('textbox', { name: 'Syllables' }).fill('vuh-R!H-uh')
  await expect(page.getByText('At sign 6: “!” is no sound here')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Add the word' })).toBeDisabled()
  await page.getByRole('textbox', { name: 'Syllables' }).fill('vuh-ROH-uh')
  await expect(page.getByRole('form', { name: 'How a word is said' })).toContainText('/vəˈɹəʊə/')
  const heard = page.waitForResponse(response => response.url().endsWith('/hear'))
  await page.getByRole('button', { name: 'Hear it' }).click()
  expect((await heard).status()).toBe(200)
  await page.keyboard.press('Tab')
  await page.getByRole('textbox', { name: 'Syllables' }).press('Enter')
  const row = page.getByRole('row', { name: /varroa/u })
  await expect(row).toContainText('vuh-ROH-uh')
  await expect(row.getByRole('cell').nth(2)).toHaveText('2')
  const after = await keys()
  expect(after.map((key, index) => key === before[index])).toEqual([true, false, true, false])

  // On the page it stands above the written word; in the part that is read, the text is what was written.
  await page.getByRole('link', { name: 'Script' }).click()
  await expect(page.locator('.ProseMirror .spoken-above').first()).toHaveAttribute('data-spoken', '/vəˈɹəʊə/')
  await expect(page.locator('.ProseMirror .from-wordbook')).toHaveText(['varroa', 'Varroa'])
  await page.getByRole('link', { name: 'Words' }).click()
  await page.getByRole('button', { name: 'Wordbook', exact: true }).click()

  await row.getByRole('button', { name: 'is checked by ear' }).click()
  await expect(row.getByRole('button', { name: 'is checked by ear' })).toHaveAttribute('aria-pressed', 'true')
  await row.getByRole('button', { name: 'Change varroa' }).click()
  await page.getByRole('textbox', { name: 'Written' }).fill('varroa, mite')
  await page.getByRole('button', { name: 'Keep the change' }).click()
  await expect(page.getByRole('row', { name: /varroa, mite/u })).toBeVisible()
  const undo = page.getByRole('button', { name: 'Undo wordbook: varroa' })
  await undo.click()
  await expect(page.getByRole('row', { name: /mite/u })).toHaveCount(0)
  await expect(row.getByRole('button', { name: 'is checked by ear' })).toHaveAttribute('aria-pressed', 'true')
  await undo.click()
  await expect(row.getByRole('button', { name: 'is checked by ear' })).toHaveAttribute('aria-pressed', 'false')
  await undo.click()
  await expect(page.getByText('No words yet')).toBeVisible()
  expect(await keys()).toEqual(before)
})

test('a word begins as it is said now; proposals are heard by number keys; another language says it its own way', async ({ page }) => {
  const edition = await makeProduction('Wines', '# Wines\n\nA Beaujolais was there.\n')
  await page.goto(`/productions/${edition}/words?view=wordbook`)
  const form = page.getByRole('form', { name: 'How a word is said' })
  await form.getByRole('textbox', { name: 'Written' }).fill('Beaujolais')
  const syllables = form.getByRole('textbox', { name: 'Syllables' })
  await expect(syllables).toHaveValue('BOH-juh-lay')
  await expect(form).toContainText('This is how it is said now')

  const proposals = form.getByRole('list', { name: 'Proposals' })
  await expect(proposals.getByRole('button').first()).toContainText('as French says it')
  const [heard] = await Promise.all([page.waitForRequest(request => request.url().endsWith('/hear')), syllables.press('1')])
  expect((heard.postDataJSON() as HearRequest).passages[0]!.content.directions).toMatchObject([{ kind: 'phoneme', ph: expect.stringContaining('ʒ') as unknown }])
  await expect(proposals.getByRole('button', { pressed: true })).toContainText('as French says it')
  // The last one is spelt.
  await proposals.getByRole('button').last().click()
  await expect(form.getByLabel('How it is said')).toHaveValue('letters')

  await form.getByLabel('How it is said').selectOption('language')
  await form.getByRole('combobox', { name: 'Language', exact: true }).selectOption('de')
  await expect(form.getByRole('button', { name: 'Add the word' })).toBeEnabled()
  await form.getByLabel('How it is said').selectOption('ipa')
  const sounds = form.getByRole('textbox', { name: 'Sounds, IPA' })
  await expect(sounds).not.toHaveValue('')
  await sounds.fill('')
  await form.getByRole('button', { name: 'æ, as in trap' }).click()
  await expect(sounds).toHaveValue('æ')
})

test('on the page a pronunciation is heard with it and without it, the words or their sentence, and is named in its form', async ({ page }) => {
  const edition = await makeProduction('Winds', '# Winds\n\nIt was calm. A wind came from the west. It went.\n')
  await page.goto(`/productions/${edition}/script`)
  const text = page.locator('.ProseMirror .passage', { hasText: 'A wind came' })
  await text.click()
  await page.keyboard.press('Home')
  for (let step = 0; step < 'It was calm. A w'.length; step += 1) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Control+.')
  await page.keyboard.press('p')
  const form = page.getByRole('dialog', { name: 'Pronunciation' })
  await expect(form.getByRole('heading')).toHaveText('Pronunciation “wind”')
  await expect(page.locator('.ProseMirror .edited')).toHaveText('wind')
  await form.getByRole('textbox', { name: 'Syllables' }).fill('WIGHND')
  const heard = async (click: () => Promise<void>): Promise<readonly [text: string, directions: number]> => {
    const [request] = await Promise.all([page.waitForRequest(each => each.url().endsWith('/hear')), click()])
    const { content } = (request.postDataJSON() as HearRequest).passages[0]!
    return [writtenText(content), content.directions.length]
  }
  const [hear, without] = [form.getByRole('button', { name: 'Hear it' }), form.getByRole('button', { name: 'Without' })]
  expect(await heard(() => hear.click())).toEqual(['wind', 1])
  // While that still plays the other is one click away.
  expect(await heard(() => without.click())).toEqual(['wind', 0])
  await expect(without).toHaveAttribute('aria-pressed', 'true')
  await form.getByLabel('What is heard').selectOption('sentence')
  expect(await heard(() => hear.click())).toEqual(['A wind came from the west.', 1])
  expect(await heard(() => without.click())).toEqual(['A wind came from the west.', 0])
})

test('a lexicon is brought in, what cannot be used is named with its line, and it goes out as PLS and CSV', async ({ page }) => {
  const edition = await makeProduction('Lexicon', '# Lexicon\n\nA skep stood there.\n')
  await page.goto(`/productions/${edition}/words?view=wordbook`)
  const lexicon = '<?xml version="1.0"?>\n<lexicon version="1.0" xmlns="http://www.w3.org/2005/01/pronunciation-lexicon" xmlns:x="urn:x" alphabet="ipa" xml:lang="en">\n<lexeme x:source="notes"><grapheme>skep</grapheme><phoneme>skɛp</phoneme></lexeme>\n<lexeme><grapheme>hive</grapheme></lexeme>\n<lexeme><grapheme>' + 'x'.repeat(301) + '</grapheme><phoneme>x</phoneme></lexeme>\n</lexicon>'
  const bring = async (name: string, text: string): Promise<void> => page.getByLabel('File of a wordbook').setInputFiles({ name, mimeType: 'text/xml', buffer: Buffer.from(text) })
  await bring('words.pls', lexicon)
  await expect(page.getByText('1 word added from words.pls')).toBeVisible()
  await expect(page.getByRole('alert').filter({ hasText: 'line 4' })).toContainText('“hive” has no pronunciation')
  await expect(page.getByRole('alert').filter({ hasText: 'line 5' })).toContainText('is passed over')
  await expect(page.getByRole('row', { name: /skep/u })).toContainText('skɛp')
  await bring('broken.pls', '<lexicon>')
  await expect(page.getByText(/broken\.pls, line 1/u)).toBeVisible()
  expect((await ask<WordsView>(`editions/${edition}/words`)).words).toHaveLength(1)

  for (const [title, ending, piece] of [['PLS lexicon', 'pls', 'x:source="notes"'], ['CSV table', 'csv', 'skep,ipa,skɛp,en']] as const) {
    await page.getByRole('button', { name: 'Export' }).click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: title }).or(page.getByRole('listitem').getByText(title)).first().click()])
    expect(download.suggestedFilename()).toBe(`wordbook.${ending}`)
    expect(await readFile((await download.path())!, 'utf8')).toContain(piece)
  }
})
