import { comparedWords } from '#core/words/known-words'
import { plainContent } from '#core/script/content'
import { isSaidOtherwise, soundsApart } from '#core/words/sounds-apart'

// British readings as the embedded engine gives them, General American ones as the CMU Pronouncing Dictionary has them.
test.each([
  ['water', 'wˈɔːtə', 'ˈwɔːtɚ'], ['Worcester', 'wˈʊstə', 'ˈwʊstɚ'], ['bath', 'bˈɑːθ', 'ˈbæθ'], ['goat', 'ɡˈəʊt', 'ˈɡoʊt'], ['nurse', 'nˈɜːs', 'ˈnɜːɹs'], ['Mary', 'mˈeəɹi', 'ˈmɛɹiː'], ['weary', 'wˈiəɹi', 'ˈwɪɹiː'], ['jury', 'dʒˈʊəɹi', 'ˈdʒʊɹiː'],
  ['January', 'dʒˈanjuːəɹi', 'ˈdʒænjuːˌɛɹiː'], ['secretary', 'sˈɛkɹətɹi', 'ˈsɛkɹəˌtɛɹiː'], ['territory', 'tˈɛɹɪtəɹi', 'ˈtɛɹɪˌtɔːɹiː'], ['arrive', 'ɐɹˈaɪv', 'ɚˈaɪv'], ['hurry', 'hˈʌɹi', 'ˈhɜːɹiː'], ['actual', 'ˈaktʃuːəl', 'ˈæktʃəwəl'], ['London', 'lˈʌndən', 'ˈlʌndən'], ['Leicester', 'lˈɛstə', 'ˈlɛstɚ'], ['union', 'jˈuːniən', 'ˈjuːnjən'], ['tomato', 'təmˈɑːtəʊ', 'təˈmɑːtoʊ'],
])('%s is the same word in two accents', (_, said, expected) => {
  expect(isSaidOtherwise(said, [expected], true)).toBe(false)
})

test.each([
  ['Wojciech', 'wˈɒdʒsaɪtʃ', 'ˈwɔɪtʃɛk'], ['gnocchi', 'nˈɒkaɪ', 'ˈnoʊkiː'], ['Nguyen', 'nˈuːjɛn', 'nuːˈjɛn'], ['Beauchamp', 'bˈəʊtʃamp', 'ˈboʊˌʃɑːmp'], ['Magdalen', 'mˈaɡdeɪlən', 'ˈmæɡdələn'], ['Charlemagne', 'tʃˈɑːlɪmˌaɡnɪ', 'ˈʃɑːɹləˌmeɪn'], ['Rousseau', 'ɹˈaʊsəʊ', 'ɹuːˈsoʊ'], ['Goethe', 'ɡˈəʊð', 'ˈɡɜːtə'],
])('%s is said otherwise, as a name', (_, said, expected) => {
  expect(isSaidOtherwise(said, [expected], true)).toBe(true)
})

test('of other words only plain differences count; one pronunciation of several is enough', () => {
  expect(isSaidOtherwise('pˈateɪ', ['ˈpeɪt'], false)).toBe(true)
  expect(isSaidOtherwise('mˈaɡdeɪlən', ['ˈmæɡdələn'], false)).toBe(false)
  expect(isSaidOtherwise('pˈateɪ', ['ˈpeɪt', 'pɑːˈteɪ'], false)).toBe(false)
  expect(isSaidOtherwise('pˈateɪ', [], false)).toBe(false)
  expect(soundsApart('nˈuːjɛn', 'nuːˈjɛn')).toEqual({ distance: 0, isStressMoved: true })
})

test('names are the words with a capital within sentences and never without; words in capitals and in other languages are not compared', () => {
  const passages = [{ id: '1', kind: 'paragraph', content: plainContent('The bees of Beauchamp, and Will too. Bees will fly; NASA’s xkcd.') }, { id: '2', kind: 'paragraph', language: 'de', content: plainContent('Guten Tag') }] as const
  const { words, names } = comparedWords([{ id: 'p', kind: 'chapter', label: 'P', included: true, passages }], 'en-GB')
  expect(names).toEqual(['Beauchamp'])
  expect([...words].sort()).toEqual(['Bees', 'The', 'Will', 'and', 'bees', 'fly', 'of', 'too', 'will', 'xkcd'])
})
