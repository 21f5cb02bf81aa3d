import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { presetNames, presetRules } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import { chaptersOfTheBook } from '../../../bench/book'
import { addedSounds } from '../../support/added-sounds'
import { castPassage, casting } from '../../support/casting'
import { root } from '../../support/paths'

// The engine's own sounds of every sentence as it is sent: none that its words do not have. `npm run bench -- said` does the same with whole documents.

const everyNth = 15
const book = chaptersOfTheBook().flatMap(chapter => chapter.paragraphs).filter((_, index) => index % everyNth === 0)
const demo = readFileSync(join(root, 'demo/files/the-marrow-lane-year.md'), 'utf8').split(/\n\s*\n/u).filter(text => /^\p{L}/u.test(text))

test.each(presetNames.flatMap(preset => [[preset, 'the demo', demo], [preset, 'a long book', book]] as const))('with the preset %s no sentence of %s has a sound that no word explains', (preset, _, texts) => {
  const rules = prepareRules(presetRules(preset))
  const unexplained = texts.flatMap(text => castPassage({ id: 'p', kind: 'paragraph', content: plainContent(text) }, { language: 'en-GB', style: defaultHouseStyle, casting, rules })
    .flatMap(utterance => addedSounds(utterance.text, utterance.request, 'en-GB') ?? []))
  expect(texts.length).toBeGreaterThan(20)
  expect(unexplained).toEqual([])
})
