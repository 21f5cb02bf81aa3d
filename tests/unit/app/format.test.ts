import { clock } from '#core/estimate/clock'
import { count, languageName, size, speechName, spokenLength } from '~/utils/format'

test.each([[0, '0:00'], [59_499, '0:59'], [59_500, '1:00'], [372_000, '6:12'], [3_800_000, '1:03:20'], [86_400_000, '24:00:00']])('%i ms are %s on the clock', (ms, text) => {
  expect(clock(ms)).toBe(text)
})

test.each([[14_200, '14 s'], [31 * 60_000, '31 min'], [125 * 60_000, '2 h 05 min']])('%i ms are %s in words', (ms, text) => {
  expect(spokenLength(ms)).toBe(text)
})

test.each([[1, '1 file'], [0, '0 files'], [9412, '9,412 files']])('%i is counted as %s', (value, text) => {
  expect(count(value, 'file')).toBe(text)
})

test('a plural of its own is used', () => {
  expect(count(2, 'delivery', 'deliveries')).toBe('2 deliveries')
})

test.each([[638_000, '638 KB'], [16_800_000, '16.8 MB'], [3_840_000_000, '3.8 GB']])('%i bytes are %s', (bytes, text) => {
  expect(size(bytes)).toBe(text)
})

test('a language is named in English, one without a name by its tag', () => {
  expect([languageName('en-GB'), languageName('de'), languageName('not a tag')]).toEqual(['British English', 'German', 'not a tag'])
})

test('what a voice speaks is said with its country, and without what only this engine knows', () => {
  expect(['en-gb-x-rp', 'en-029', 'de', 'cmn-latn-pinyin', 'fr-fr'].map(speechName)).toEqual(['British English', 'English', 'German', 'Chinese', 'French (France)'])
})
