import { dictionary } from 'cmu-pronouncing-dictionary'
import { arpabetToIpa } from '#core/words/arpabet'
import { respell, respellingOf } from '#core/words/respelling'
import { inSoundsOf, soundsOf } from '#core/words/sounds-of'

// From sounds back to the syllables that a producer writes, and into the sounds of another language.

test.each([
  ['vəɹˈəʊə', 'vuh-ROH-uh'], ['bˈiːkiːpə', 'BEE-kee-puh'], ['ˈhʌni', 'HU-nee'], ['stɹˈɛŋθ', 'STRENGTH'], ['ˈɛkstɹə', 'EX-truh'],
  // Two syllables at the end of a word, one where it is stressed.
  ['tˈɪliə', 'TI-lee-uh'], ['nˈiə', 'NEER'],
])('%s is written %s', (ipa, respelling) => {
  expect(respellingOf(ipa)).toBe(respelling)
})

test('what has no spelling, or another language, has no respelling', () => {
  expect([respellingOf('kǃʔ'), respellingOf('ˈhʌni', 'de'), respellingOf('ʏ')]).toEqual([null, null, null])
})

// Checked against the CMU Pronouncing Dictionary (package cmu-pronouncing-dictionary): every fiftieth word.
test('nearly every word of a pronouncing dictionary is written in syllables that are read back as it is said', () => {
  const asked = Object.values(dictionary).filter((_, index) => index % 50 === 0).flatMap(phones => arpabetToIpa(phones.split('#')[0]!.trim()) ?? [])
  const written = asked.flatMap(ipa => respellingOf(ipa, 'en-US') ?? [])
  expect(asked.length).toBeGreaterThan(2_000)
  expect(written.length / asked.length).toBeGreaterThan(0.99)
  expect(written.filter(respelling => 'message' in respell(respelling, 'en-US'))).toEqual([])
})

test.each([
  ['boʒɔlˈɛ', 'en', 'bəʊʒɒlˈɛ'], ['ʃvˈaɾtskɔpf', 'en', 'ʃvˈæɹtskɒpf'], ['bɔ̃ʒˈuʁ', 'en', 'bɔːnʒˈuːɹ'], ['xalapˈeɲo', 'en', 'hælæpˈeɪnjəʊ'], ['θˈɪŋk', 'de', 'sˈɪŋk'],
  // A language whose sounds are not known here.
  ['hˈʌni', 'cy', 'hˈʌni'],
])('%s in the sounds of %s is %s', (ipa, language, expected) => {
  expect(inSoundsOf(ipa, language)).toBe(expected)
})

test('what is in the sounds of a language has no others', () => {
  const signs = new Set(soundsOf('en').flatMap(sound => [...sound.ipa]))
  const foreign = [...'abcdefhijklmnopqrstuvwxyzɐɑɒɓɔɕɖəɛɜɟɡɢɣɤɥɦɨɪɬɭɮɯɰɱɲɳɴɵɶɸɹɻɽɾʀʁʂʃʈʉʊʋʌʎʏʐʑʒʔʝ']
  expect([...inSoundsOf(foreign.join(''), 'en')].filter(sign => !signs.has(sign))).toEqual([])
})
