import { knownWords } from '../../../voices/known-words'
import { casting } from '../../support/casting'
import { openVoices } from '../../support/performance'

const engines = openVoices()
afterAll(() => engines.close())

const ask = (words: readonly string[], names: readonly string[] = [], language = 'en-GB', voice = 'en-gb') => knownWords(engines, { ...casting, voice }, language, { words, names })

test('names of the CMU dictionary that the voice says otherwise are found, with what both say', async () => {
  const { otherwise, unknown, hasDictionary } = await ask(['bees', 'gnocchi', 'water', 'honey'], ['Wojciech', 'Nguyen', 'Beauchamp', 'Magdalen', 'London', 'Mary', 'Leicester'])
  expect(otherwise.map(({ word }) => word).sort()).toEqual(['Beauchamp', 'Magdalen', 'Nguyen', 'Wojciech', 'gnocchi'])
  expect(otherwise.find(({ word }) => word === 'Wojciech')).toEqual({ word: 'Wojciech', said: 'wˈɒdʒsaɪtʃ', expected: 'ˈwɔɪtʃɛk' })
  expect([unknown, hasDictionary]).toEqual([null, true])
})

test('what the voice spells out is found, in every language', async () => {
  expect((await ask(['xkcd', 'Zorblax', 'bees', 'tsk'])).spelt).toContain('xkcd')
  expect((await ask(['xkcd', 'Zorblax', 'bees'])).spelt).toEqual(['xkcd'])
  expect((await ask(['Bienen', 'xkcd', 'Zarge'], [], 'de', 'de')).spelt).toEqual(['xkcd'])
})

// Spelling dictionaries of Debian, with their compounds and inflections.
test.each([
  ['de', 'de', ['Bienenkönigin', 'ging', 'gegangen', 'Honigernte', 'Häuser'], ['Zorblax', 'Ammelle']],
  ['fr', 'fr-fr', ['abeilles', 'mangeaient', 'œuvre', 'été'], ['Zorblax', 'ammelle']],
  ['es', 'es', ['puede', 'abejas', 'comieron', 'está'], ['Zorblax', 'ammellaría']],
  ['it', 'it', ['mangiavano', 'api', 'è'], ['Zorblax']],
  ['pt-BR', 'pt-br', ['abelhas', 'comeram'], ['Zorblax']],
  ['nl', 'nl', ['bijen', 'liepen'], ['Zorblax']],
  ['sv', 'sv', ['bina', 'sprang'], ['Zorblax']],
])('in %s the words that no dictionary has are found', async (language, voice, words, strange) => {
  const { unknown, hasDictionary, otherwise } = await ask([...words, ...strange], [], language, voice)
  expect([hasDictionary, otherwise]).toEqual([true, []])
  expect(unknown).toEqual(strange)
})

test('a language without a dictionary says so', async () => {
  expect(await ask(['saluton'], [], 'eo', 'eo')).toMatchObject({ unknown: null, hasDictionary: false })
})
