import { anchorAt, placeOf } from '#core/script/anchor'
import { plainContent } from '#core/script/content'
import { hitsOff } from '#core/script/decisions'

const text = 'The bees fly. The bees rest. The queen lays.'
const at = text.indexOf('bees', 10)
const anchor = anchorAt('p', text, at, at + 4)

test.each([
  ['where it was', text, [at, at + 4]],
  ['behind what was written before it', `Look: ${text}`, [at + 6, at + 10]],
  ['beside what still stands around it', 'The bees rest. The bees fly.', [4, 8]],
  ['nowhere, when its words are gone', 'The drones rest.', null],
])('an anchor is found %s', (_, now, expected) => {
  expect(placeOf(anchor, now)).toEqual(expected)
})

test('an anchor keeps no half of a character', () => {
  const emoji = '🐝'.repeat(10)
  const { before, after } = anchorAt('p', `${emoji}x${emoji}y`, 20, 21)
  expect([before, after].map(each => each.isWellFormed())).toEqual([true, true])
  expect(placeOf(anchorAt('p', `${emoji}x${emoji}y`, 20, 21), `${emoji}x${emoji}y`)).toEqual([20, 21])
})

test('hits that are switched off are found in the passage as it is now', () => {
  const off = hitsOff([{ about: 'rule', rule: 'numbers', at: anchor }, { about: 'census', reason: 'acronym', key: 'EFB' }])
  expect(off({ id: 'p', kind: 'paragraph', content: plainContent(`So ${text}`) })).toEqual([{ rule: 'numbers', start: at + 3, end: at + 7 }])
  expect(off({ id: 'p', kind: 'paragraph', content: plainContent('Nothing.') })).toEqual([])
  expect(off({ id: 'other', kind: 'paragraph', content: plainContent(text) })).toEqual([])
})
