import { compare } from '../../../app/utils/difference'

test.each([
  ['a difference in the middle', 'The old hive stands.', 'The new hive stands.', { before: 'The ', own: 'old', after: ' hive stands.' }],
  ['something added at the end', 'One. Two.', 'One.', { before: 'One.', own: ' Two.', after: '' }],
  ['something taken out', 'One.', 'One. Two.', { before: 'One.', own: '', after: '' }],
  ['repeated words, which count once', 'go go', 'go', { before: 'go', own: ' go', after: '' }],
  ['equal texts', 'Same.', 'Same.', { before: 'Same.', own: '', after: '' }],
  ['signs of two units, which stay whole', '🐝', '🐻', { before: '', own: '🐝', after: '' }],
])('%s', (_, text, other, expected) => {
  expect(compare(text, other)).toEqual(expected)
})

test('long common text is shortened on both sides', () => {
  const long = 'x'.repeat(100)
  expect(compare(`${long}a${long}`, `${long}b${long}`)).toEqual({ before: `…${'x'.repeat(60)}`, own: 'a', after: `${'x'.repeat(60)}…` })
})
