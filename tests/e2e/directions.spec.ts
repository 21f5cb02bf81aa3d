import { expect, test, type Page as BrowserPage } from '@playwright/test'
import { wavHeader } from '#core/audio/wav'
import type { Content } from '#core/script/content'
import { valueText } from '#core/script/direction-text'
import type { Desk, Page } from '#shared/api'
import { ask, bringIn, makeProduction, passage, saved, typeInto } from './support'

/** A production of this text, open on the Script page; gives its address and the id of its part. */
async function open(page: BrowserPage, name: string, text: string): Promise<{ readonly edition: string, readonly part: string }> {
  const edition = await makeProduction(name, `# ${name}\n\n${text}\n`)
  const { parts } = await ask<{ parts: { id: string }[] }>(`editions/${edition}`)
  await page.goto(`/productions/${edition}/script`)
  await expect(page.locator('.ProseMirror')).toBeVisible()
  return { edition, part: parts[0]!.id }
}
test.use({ baseURL: process.env['QUILL_ADDRESS'] })

const contents = async (part: string): Promise<readonly Content[]> => (await ask<Page>(`parts/${part}`)).passages.map(each => each.content)
const directions = async (part: string): Promise<string[]> => (await contents(part)).flatMap(content => content.directions.map(each => `${each.kind} ${valueText(each)}`.trim()))

/** Selects a word of a passage by keyboard alone: the caret before it, then over it. */
async function selectWord(page: BrowserPage, text: string, word: string): Promise<void> {
  await passage(page, text).click()
  const whole = (await page.locator('.ProseMirror').innerText()).replace(/\n+/gu, '\n')
  const at = whole.indexOf(word, whole.indexOf(text))
  // A page that is just being drawn may miss a key.
  await expect(async () => {
    await press(page, 'Control+Home')
    await press(page, 'ArrowRight', at)
    await press(page, 'Shift+ArrowRight', word.length)
    expect(await page.evaluate(() => window.getSelection()?.toString())).toBe(word)
  }).toPass()
}

async function press(page: BrowserPage, key: string, times = 1): Promise<void> {
  for (let i = 0; i < times; i += 1) await page.keyboard.press(key)
}

const choose = async (page: BrowserPage, letter: string): Promise<void> => {
  await page.keyboard.press('Control+.')
  await expect(page.getByRole('menu', { name: 'Directions' })).toBeVisible()
  await page.keyboard.press(letter)
}

const added: readonly (readonly [name: string, letter: string, word: string, fill: (page: BrowserPage) => Promise<void>, expected: string])[] = [
  ['a rest', 'r', 'home', async page => { await page.keyboard.press('Tab'); await page.keyboard.press('Control+a'); await page.keyboard.type('750') }, 'rest 750 ms'],
  ['emphasis', 'e', 'home', async page => { await page.keyboard.press('s') }, 'emphasis strong'],
  ['say as', 'a', '1987', async page => { await page.keyboard.type('Date') }, 'sayAs date'],
  ['a substitute', 'b', 'WWW', async page => { await page.keyboard.type('World Wide Web') }, 'substitute World Wide Web'],
  ['a pronunciation', 'p', 'wind', async page => { await page.keyboard.type('WIGHND') }, 'phoneme ˈwaɪnd'],
  ['pace and pitch', 'd', 'home', async page => { await page.keyboard.press('Control+a'); await page.keyboard.type('80'); await page.keyboard.press('Tab'); await page.keyboard.type('-2') }, 'prosody rate 80% pitch -2st'],
  ['a language', 'l', 'home', async page => { await page.keyboard.type('German') }, 'language de'],
  ['a role', 'c', 'home', async page => { await page.keyboard.type('a new'); await page.keyboard.press('Tab'); await page.keyboard.type('Mentor') }, 'role Mentor'],
  ['left out', 'x', 'home', () => Promise.resolve(), 'leftOut'],
]

test('every direction is put on by the keyboard alone, changed, and taken off', async ({ page }) => {
  const text = 'In 1987 the bees came home on the wind, says the WWW.'
  const { edition, part } = await open(page, 'Keyboard', text)
  for (const [name, letter, word, fill, expected] of added) {
    await test.step(name, async () => {
      const said = async (): Promise<string[]> => {
        const { roles } = await ask<Desk>(`editions/${edition}`)
        return (await directions(part)).map(each => roles.reduce((text, role) => text.replace(role.id, role.name), each))
      }
      await selectWord(page, text, word)
      await choose(page, letter)
      await fill(page)
      if (letter !== 'x') await page.keyboard.press('Enter')
      await expect(page.getByRole('dialog')).toHaveCount(0)
      await saved(page)
      await expect.poll(said).toEqual([expected])
      // Undone as one edit, by the key.
      await page.keyboard.press('Control+z')
      await expect.poll(() => directions(part)).toEqual([])
    })
  }
  await selectWord(page, text, 'home')
  await choose(page, 'e')
  await page.keyboard.press('Enter')
  await saved(page)
  await expect.poll(() => directions(part)).toEqual(['emphasis moderate'])
  await page.keyboard.press('Control+.')
  await page.keyboard.press('Enter')
  await page.keyboard.press('r')
  await page.keyboard.press('Enter')
  await expect.poll(() => directions(part)).toEqual(['emphasis reduced'])
  await page.keyboard.press('Control+.')
  await page.keyboard.press('Delete')
  await expect.poll(() => directions(part)).toEqual([])
})

test('a direction over several passages is put on each; a copy keeps it; undo takes back both at once', async ({ page }) => {
  const { part } = await open(page, 'Several', 'One bee.\n\nTwo bees.')
  await passage(page, 'One bee.').click()
  await press(page, 'Home')
  await press(page, 'Shift+ArrowDown')
  await press(page, 'Shift+End')
  await choose(page, 'e')
  await page.keyboard.press('Enter')
  await saved(page)
  await expect.poll(() => directions(part)).toEqual(['emphasis moderate', 'emphasis moderate'])
  const ids = (await contents(part)).flatMap(content => content.directions.map(each => each.id))
  expect(new Set(ids).size).toBe(2)

  await passage(page, 'One bee.').click()
  await press(page, 'Home')
  await press(page, 'Shift+End')
  await press(page, 'Control+c')
  await press(page, 'End')
  await page.keyboard.type(' ')
  await page.keyboard.press('Control+v')
  await saved(page)
  await expect.poll(async () => (await contents(part))[1]!.runs.map(run => run.text).join('')).toBe('One bee. One bee.')
  await expect.poll(() => directions(part)).toEqual(['emphasis moderate', 'emphasis moderate', 'emphasis moderate'])
})

test('what the voice cannot do is there, cannot be chosen, and says why', async ({ page }) => {
  const text = 'The bees came home.'
  const edition = await makeProduction('Cannot', `# Cannot\n\n${text}\n`)
  const { casting: { voice, pitchSemitones, gainDb } } = await ask<Desk>(`editions/${edition}`)
  await ask(`editions/${edition}/casting`, { voice, wordsPerMinute: 95, pitchSemitones, gainDb }, 'PUT')
  await page.goto(`/productions/${edition}/script`)
  await passage(page, text).click()
  await page.keyboard.press('End')
  await page.keyboard.press('Control+.')
  const pace = page.getByRole('menuitem', { name: /Pace & pitch/u })
  await expect(pace).toHaveAttribute('aria-disabled', 'true')
  await pace.focus()
  await expect(page.getByRole('menu').getByRole('status')).toContainText('this voice gets no slower than 95')
  await page.keyboard.press('Escape')

  // One that came in with a document is marked on the page and explained beside it.
  const contour = '<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en"><p>The <prosody contour="(0%,+10Hz)">bees</prosody> sing.</p></speak>'
  await passage(page, text).click()
  await page.keyboard.press('End')
  await page.evaluate(value => {
    const data = new DataTransfer()
    data.setData('text/plain', value)
    document.querySelector('.ProseMirror')!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  }, contour)
  await page.getByRole('button', { name: 'Paste as directions' }).click()
  await expect(page.locator('.ProseMirror .cannot')).toHaveText('bees')
  await expect(page.getByRole('list', { name: 'Directions on these lines' })).toContainText('follows no contour')
})

test('a sound is brought in where it is placed, is heard in the part, stays in the library while it is played, and goes with undo', async ({ page }) => {
  const { edition, part } = await open(page, 'Bell', 'The bell rang. It was noon.')
  const length = async (): Promise<number> => (await ask<Page>(`parts/${part}`)).part.durationMs
  const before = await length()
  await passage(page, 'The bell rang.').click()
  await press(page, 'Home')
  await press(page, 'ArrowRight', 'The bell'.length)
  await choose(page, 's')
  await expect(page.getByRole('dialog', { name: 'Sound' })).toContainText('has no sounds yet')
  const samples = new Int16Array(11_025).map((_, at) => 9000 * Math.sin(at / 9))
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'audio/wav', buffer })
  await page.getByLabel('File of a sound').setInputFiles(file('notes.wav', Buffer.from('no sound at all')))
  await expect(page.getByText('notes.wav is no sound that can be read')).toBeVisible()
  await page.getByLabel('File of a sound').setInputFiles(file('bell.wav', Buffer.concat([wavHeader(samples.length, 22_050), Buffer.from(samples.buffer)])))
  await expect(page.getByRole('combobox', { name: 'Sound', exact: true })).toHaveValue('bell.wav')
  await page.getByRole('button', { name: 'Add' }).click()
  await saved(page)
  await expect(page.locator('.ProseMirror i.direction-sound')).toHaveAttribute('data-label', 'bell.wav')
  await expect(page.locator('.ProseMirror .cannot')).toHaveCount(0)
  await expect.poll(() => directions(part)).toEqual(['sound bell.wav'])
  // Its half second, but for what the rest of the sentence is estimated to take.
  expect(Math.round(await length() - before)).toBe(500)

  await page.goto(`/productions/${edition}/cast`)
  const library = page.getByRole('region', { name: 'Sounds' })
  await expect(library).toContainText('bell.wav 0.5 s')
  await expect(library).toContainText('1 place')
  await library.getByRole('button', { name: 'Remove bell.wav' }).click()
  await expect(page.getByText('plays “bell.wav” at 1 place')).toBeVisible()
  await page.goto(`/productions/${edition}/script`)
  await page.getByRole('button', { name: /^Undo/u }).click()
  await expect.poll(() => directions(part)).toEqual([])
  await page.goto(`/productions/${edition}/cast`)
  await library.getByRole('button', { name: 'Remove bell.wav' }).click()
  await expect(library).toContainText('None yet')
})

test('a direction is moved by a word with the arrow keys, its card stays level with its line, also below the list of hits', async ({ page }) => {
  const { part } = await open(page, 'Moved', 'The bees came home at noon.')
  await selectWord(page, 'The bees', 'came')
  await choose(page, 'e')
  await page.keyboard.press('Enter')
  const on = async (): Promise<string> => (await contents(part))[1]!.runs.filter(run => run.on.length > 0).map(run => run.text).join('')
  await expect.poll(on).toBe('came')
  await page.keyboard.press('Control+.')
  await expect(page.getByRole('menuitem', { name: 'Emphasis moderate' })).toBeFocused()
  await press(page, 'ArrowRight', 2)
  await expect.poll(on).toBe('at')
  await expect(page.getByRole('menuitem', { name: 'Emphasis moderate' })).toBeFocused()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(on).toBe('home')
  await page.keyboard.press('Escape')

  const card = page.locator('.cards li')
  const apart = async (): Promise<number> => {
    const [words, beside] = await Promise.all([page.locator('.ProseMirror .direction-emphasis').boundingBox(), card.boundingBox()])
    return Math.abs(words!.y - beside!.y)
  }
  await expect.poll(apart).toBeLessThan(6)
  await page.keyboard.press('Control+Shift+f')
  await page.getByRole('searchbox', { name: 'Find', exact: true }).fill('noon')
  await expect(page.locator('.hit')).toHaveCount(1)
  await expect.poll(apart).toBeLessThan(6)
})

test('a change of rests is undone and redone like an edit of the text', async ({ page }) => {
  const { edition } = await open(page, 'Rests', 'One. Two.')
  const rest = async (): Promise<number> => (await ask<Desk>(`editions/${edition}`)).houseStyle.sentenceRestMs
  await page.getByRole('tab', { name: 'Rests' }).click()
  const field = page.getByLabel('Between sentences, ms')
  await field.fill('450')
  await field.press('Enter')
  await expect.poll(rest).toBe(450)
  await page.getByRole('button', { name: 'Undo rest between sentences (Ctrl Z)' }).click()
  await expect.poll(rest).toBe(300)
  await expect(field).toHaveValue('300')
  await page.getByRole('button', { name: 'Redo rest between sentences (Ctrl Y)' }).click()
  await expect(field).toHaveValue('450')
})

test('the SSML view shows an error at its place, and takes over what is valid', async ({ page }) => {
  const { part } = await open(page, 'Markup', 'The bees came home.')
  await passage(page, 'The bees came home.').click()
  await page.getByRole('button', { name: 'SSML' }).click()
  const source = page.getByRole('textbox', { name: 'SSML' })
  await expect(source).toContainText('<p>The bees came home.</p>')
  await source.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('<p>The <emphasis level="huge">bees</emphasis> came home.</p>')
  const problem = page.getByRole('button', { name: /Error “huge” is no level/u })
  await expect(problem).toContainText('1:18')
  await expect(page.locator('.cm-lintRange-error')).toHaveText('level')
  await expect(page.getByText('Not taken over: 1 error to mend')).toBeVisible()
  expect(await directions(part)).toEqual([])

  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('<p quill:role="Mentor">The <emphasis level="strong">bees</emphasis> <break time="300ms"/>came home.</p>')
  await expect(page.getByText('Taken over to the page')).toBeVisible()
  await expect.poll(() => directions(part)).toEqual(['emphasis strong', 'rest 300 ms'])
  await page.getByRole('button', { name: 'Back to the page' }).click()
  await expect(page.locator('.ProseMirror .emphasis-strong')).toHaveText('bees')
  await expect(page.locator('.role-tag')).toHaveAttribute('data-role', 'Mentor')

  // The whole part: a paragraph more is a passage more.
  await page.getByRole('button', { name: 'SSML' }).click()
  await page.getByRole('combobox', { name: 'SSML of' }).selectOption('part')
  await expect(source).toContainText('<speak')
  await source.click()
  await page.keyboard.press('Control+End')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.insertText('<p>It was noon.</p>\n')
  await expect.poll(async () => (await contents(part)).length).toBe(3)
  await page.getByRole('button', { name: 'Back to the page' }).click()
  await expect(passage(page, 'It was noon.')).toBeVisible()
})

test('Enter begins a passage, Backspace joins it again, and undo takes that back', async ({ page }) => {
  const { part } = await open(page, 'Letter', 'The bees came home. It was noon.')
  await passage(page, 'The bees came home.').click()
  await press(page, 'Home')
  await press(page, 'ArrowRight', 'The bees came home. '.length)
  // Typed on at once: it waits until the new passage is there.
  await page.keyboard.press('Enter')
  await page.keyboard.type('Then. ')
  await expect(page.locator('.ProseMirror .passage')).toHaveCount(3)
  await saved(page)
  await expect.poll(async () => (await contents(part)).map(content => content.runs.map(run => run.text).join(''))).toEqual(['Letter', 'The bees came home. ', 'Then. It was noon.'])
  await page.keyboard.press('Home')
  await page.keyboard.press('Backspace')
  await expect(page.locator('.ProseMirror .passage')).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(page.locator('.ProseMirror .passage')).toHaveCount(3)
})

test('find and replace over the production: hits in their sentences, one and all, with the count, undone at once', async ({ page }) => {
  const production = await bringIn(page, 'Findable', 4)
  await page.keyboard.press('Control+Shift+f')
  await page.getByRole('searchbox', { name: 'Find', exact: true }).fill('second one')
  await expect(page.getByText('4 hits in 4 passages')).toBeVisible()
  // A hit is selected: what is typed at once takes its place.
  await page.locator('.hit').first().focus()
  await Promise.all([page.keyboard.press('Enter'), page.keyboard.press('x')])
  await expect(passage(page, 'Here is a x in Findable 1')).toBeVisible()
  await saved(page)
  await page.keyboard.press('Control+z')
  await expect(passage(page, 'Here is a second one in Findable 1')).toBeVisible()
  await expect(page.getByText('4 hits in 4 passages')).toBeVisible()
  await page.getByRole('button', { name: /Findable chapter 3/u }).and(page.locator('.hit')).click()
  await expect(page).toHaveURL(/part=/u)
  await expect(passage(page, 'Findable chapter 3')).toBeVisible()
  await page.getByRole('textbox', { name: 'Replace with' }).fill('other one')
  await page.getByRole('button', { name: 'Replace second one in Findable chapter 3' }).click()
  await expect(page.getByText('3 hits in 3 passages')).toBeVisible()
  await expect(passage(page, 'Here is a other one in Findable 3')).toBeVisible()
  await page.getByRole('button', { name: 'Replace all 3' }).click()
  await expect(page.getByText('Not found.')).toBeVisible()
  await expect(page.getByText('Replaced 3 hits in 3 passages.')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).first().click()
  await page.locator('.ProseMirror').focus()
  await page.keyboard.press('Control+z')
  const id = production.split('/').at(-1)!
  await expect.poll(async () => (await ask<{ count: number }>(`editions/${id}/find`, { query: { what: 'second one', place: 'text', matchCase: false, wholeWord: false, isPattern: false } })).count).toBe(3)
})

test('speaker labels become roles, each with a voice of its own', async ({ page }) => {
  const { edition } = await open(page, 'Talk', 'MENTOR: Look at the entrance.\n\nAPPRENTICE: What do you see?\n\nMENTOR: Everything.')
  await page.getByRole('button', { name: 'Make 2 roles' }).click()
  await expect(page.locator('.role-tag')).toHaveCount(3)
  await expect(page.locator('.ProseMirror .direction-leftOut').first()).toHaveText('MENTOR: ')
  await page.goto(`/productions/${edition}/cast`)
  await expect(page.getByRole('list', { name: 'Roles' }).getByRole('button')).toHaveText([/Narrator/u, /Mentor\s*2 passages/u, /Apprentice\s*1 passage/u])
  await page.getByRole('button', { name: /^Mentor/u }).click()
  await expect(page.getByRole('heading', { name: 'Mentor' })).toBeVisible()
})

test('the script is exported as SSML, text, Markdown and a Word document', async ({ page }) => {
  await open(page, 'Going out', 'The bees came home.')
  for (const [title, ending] of [['SSML', 'ssml'], ['Plain text', 'txt'], ['Markdown', 'md'], ['Word document', 'docx']] as const) {
    await page.getByRole('button', { name: 'Export' }).click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('listitem').getByText(title).or(page.getByRole('link', { name: title })).first().click()])
    expect(download.suggestedFilename()).toBe(`going-out.${ending}`)
  }
})

test('a selection is heard by itself, and the words light up while a sentence is spoken', async ({ page }) => {
  await open(page, 'Heard', 'The bees came in low over the field of clover in the morning.')
  await typeInto(page, 'The bees came in low', ' ')
  await saved(page)
  await page.keyboard.press('Shift+Home')
  const heard = page.waitForResponse('**/hear')
  await page.keyboard.press('Control+Enter')
  expect((await heard).status()).toBe(200)
  await page.keyboard.press('End')
  await page.keyboard.press('Control+Enter')
  await expect(page.locator('.ProseMirror .lit-word')).not.toHaveCount(0)
  const first = await page.locator('.ProseMirror .lit-word').first().textContent()
  await expect.poll(() => page.locator('.ProseMirror .lit-word').first().textContent().catch(() => null), { intervals: [50] }).not.toBe(first)
})
