import { plainContent } from '#core/script/content'
import type { Passage, PassageKind } from '#core/script/script'
import { checkNarration, narratorAdvice, narratorReasons } from '#core/style/narrator-check'

// What a synthetic narrator should not say is common practice; the texts are invented.

const passage = (text: string, kind: PassageKind = 'paragraph', more: Partial<Passage> = {}): Passage => ({ id: 'p', kind, content: plainContent(text), ...more })
const found = (text: string, language = 'en', kind: PassageKind = 'paragraph', more: Partial<Passage> = {}): string[] =>
  checkNarration([passage(text, kind, more)], language).map(({ reason, start, end }) => `${reason}: ${text.slice(start, end)}`)

test.each([
  ['en', 'We open the hive.', ['first-person-plural: We']],
  ['en', 'Let\'s open it; it is ours.', ['first-person-plural: Let\'s', 'first-person-plural: ours']],
  ['en', 'The US, the bus and the wee hours.', []],
  ['en', 'Bees are, of course, insects.', ['idle-phrase: of course']],
  ['en', 'Use a tool, e.g. a scraper, etc.', ['abbreviation: e.g.', 'abbreviation: etc.']],
  ['en', 'See below for the dates, and click here.', ['unseen-reference: See below', 'unseen-reference: click here']],
  ['en', 'The table below shows it.', ['unseen-reference: The table below']],
  ['en', 'The smoker (which every keeper should own) is lit.', ['aside: (which every keeper should own)']],
  ['en', 'The smoker (a tin) is lit.', []],
  ['en', 'He said: “We are late, of course.” They went.', []],
  ['en', 'The view from the hill is below the clouds. See the bees.', []],
  ['de', 'Wir öffnen den Stock, z. B. im Mai.', ['first-person-plural: Wir', 'abbreviation: z. B.']],
  ['de', 'Klicken Sie hier. Die Abbildung oben zeigt es.', ['unseen-reference: Klicken Sie hier', 'unseen-reference: Die Abbildung oben']],
  ['fr', 'Nous ouvrons la ruche, bien sûr.', ['first-person-plural: Nous', 'idle-phrase: bien sûr']],
  ['es', 'Abrimos nuestra colmena; haga clic aquí.', ['first-person-plural: nuestra', 'unseen-reference: haga clic aquí']],
  ['fi', 'Me avaamme pesän.', []],
])('%s: %s', (language, text, expected) => {
  expect(found(text, language)).toEqual(expected)
})

test('what a role or a quotation says is its own', () => {
  expect(found('We open it.', 'en', 'quotation')).toEqual([])
  expect(found('We open it.', 'en', 'paragraph', { role: 'Mentor' })).toEqual([])
})

test('rows of a table, long sentences and lists in a sentence are reported, the longest first where one holds the other', () => {
  expect(found('Hive, 4, 12 kg', 'en', 'tableRow')).toEqual(['table: Hive, 4, 12 kg'])
  const long = `${'word '.repeat(35)}word.`
  expect(found(long)).toEqual([`long-sentence: ${long}`])
  expect(found(`${'word '.repeat(34)}word.`)).toEqual([])
  expect(found('Bring a tool, a veil, a brush, a tin, a pen, a book, and gloves.')).toEqual(['list-in-sentence: Bring a tool, a veil, a brush, a tin, a pen, a book, and gloves.'])
  expect(checkNarration([passage('One two three four.')], 'en', 3)).toMatchObject([{ reason: 'long-sentence' }])
})

test('each has an advice', () => {
  for (const reason of narratorReasons) expect(narratorAdvice[reason]).toMatch(/\.$/u)
})
