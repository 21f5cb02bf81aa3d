import { likelyLanguages } from '../../../voices/likely-languages'
import { nearWords } from '../../../voices/near-words'

// Words that look like one that nobody knows, and where it may come from.

test('the words of the pronouncing dictionary that are nearest come first, and never the word itself', async () => {
  expect((await nearWords('en-GB', 'heathur'))[0]).toBe('heather')
  expect(await nearWords('en', 'honey')).not.toContain('honey')
  expect(await nearWords('de', 'Biehnen')).toContain('Bienen')
  expect([await nearWords('en', 'EFB'), await nearWords('en', 'two words')]).toEqual([[], []])
})

// Names of places and dishes as they are written in their languages (common knowledge, from memory).
test.each([['Schwarzkopf', 'de'], ['Beaujolais', 'fr'], ['Szczecin', 'pl'], ['gnocchi', 'it'], ['jalapeño', 'es'], ['Dvořák', 'cs'], ['Reykjavik', 'is'], ['Москва', 'ru'], ['Αθήνα', 'el'], ['東京', 'ja']])('%s may come from %s', async (word, language) => {
  expect((await likelyLanguages(word)).slice(0, 2)).toContain(language)
})
