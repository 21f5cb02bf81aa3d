import { spokenForm } from '#core/score/spoken'
import { writtenText, type Content } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { readFragment } from '#core/script/ssml/read'
import { writeContent } from '#core/script/ssml/write'
import { defaultHouseStyle } from '#core/style/house-style'
import { castPassage, markupOf, narrator } from '../../../support/casting'

function contentOf(fragment: string): Content {
  const { root, problems, source } = checkSsml(fragment, { fragmentLanguage: 'en-GB' })
  expect(problems).toEqual([])
  const read = readFragment(root!, source)!
  expect(read.lost).toEqual([])
  return read.content
}

const sent = (content: Content): string => castPassage({ id: 'p', kind: 'paragraph', content }, { language: 'en-GB', style: defaultHouseStyle, casting: narrator }).map(({ request }) => markupOf(request)).join('')

// Legal in SSML 1.1: nothing need stand in them (3.1.10, 3.1.11).
test.each([
  ['<phoneme ph="klɪk"/>', 'A <phoneme ph="klɪk">klɪk</phoneme> here.'],
  ['<sub alias="bee"/>', 'A bee here.'],
  ['<phoneme alphabet="x-own" ph="k"/>', 'A here.'],
  ['<emphasis level="strong"/>', 'A here.'],
  ['<prosody rate="slow"/>', 'A here.'],
  ['<say-as interpret-as="date"/>', 'A here.'],
  ['<voice gender="female"/>', 'A here.'],
  ['<lang xml:lang="de"> </lang>', 'A here.'],
])('%s is kept, and says what it says', (element, said) => {
  const content = contentOf(`A ${element} here.`)
  expect(writtenText(content).replace(/ +/gu, ' ')).toBe('A here.')
  // White space around a point is one space, before it.
  expect(writeContent(content)).toBe(`A ${element}here.`)
  expect(contentOf(writeContent(content))).toEqual(content)
  expect(sent(content)).toBe(`<speak>${said}</speak>`)
})

test('what is said stands apart from the words beside it, leads to its place, and can be left out', () => {
  expect(sent(contentOf('A<sub alias="bee"/>here.'))).toBe('<speak>A bee here.</speak>')
  expect(sent(contentOf('A <sub alias="bee"/>.'))).toBe('<speak>A bee.</speak>')
  const form = spokenForm(contentOf('Hives <sub alias="big bees"/> hum.'), 'en-GB')
  expect(form.groups.map(({ written, spoken }) => [written, form.text.slice(...spoken)])).toEqual([[[0, 6], 'Hives '], [[6, 6], 'big bees'], [[6, 6], ' '], [[6, 10], 'hum.']])
  expect(form.steps).toEqual([expect.objectContaining({ from: '', to: 'big bees', written: [6, 6] })])
})
