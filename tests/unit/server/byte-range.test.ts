import { byteRange } from '../../../server/utils/byte-range'

// The cases of RFC 9110, sections 14.1.2 and 14.2, for a representation of 10,000 bytes.
test.each([
  ['bytes=0-499', { from: 0, to: 500 }],
  ['bytes=500-999', { from: 500, to: 1000 }],
  ['bytes=-500', { from: 9500, to: 10_000 }],
  ['bytes=9500-', { from: 9500, to: 10_000 }],
  ['bytes=9999-20000', { from: 9999, to: 10_000 }],
  ['bytes=-20000', { from: 0, to: 10_000 }],
  ['bytes=10000-', 'unsatisfiable'],
  ['bytes=-0', 'unsatisfiable'],
  ['bytes=5-2', null],
  ['bytes=0-1,5-6', null],
  ['lines=0-1', null],
  ['bytes=-', null],
  [undefined, null],
] as const)('%s', (header, expected) => {
  expect(byteRange(header, 10_000)).toEqual(expected)
})
