import { monthOf, priceOf, type Tariff } from '#core/estimate/price'

const plain: Tariff = { microsPerMillion: 4_000_000, freeCharacters: 0 }
const fine: Tariff = { microsPerMillion: 16_000_000, freeCharacters: 0 }
/** Characters of a page of manuscript, *common practice*. */
const page = 3_000

test.each([
  ['a million characters, plain', 1_000_000, 0, plain, 4_000_000],
  ['a million characters, fine', 1_000_000, 0, fine, 16_000_000],
  ['a page, plain', page, 0, plain, 12_000],
  ['a page, fine', page, 0, fine, 48_000],
  ['a page within what is free', page, 0, { ...plain, freeCharacters: 5_000 }, 0],
  ['a page over the end of what is free', page, 3_000, { ...plain, freeCharacters: 5_000 }, 4_000],
  ['a page behind what is free', page, 6_000, { ...plain, freeCharacters: 5_000 }, 12_000],
  ['one character of a price below a micro', 1, 0, { microsPerMillion: 400_000, freeCharacters: 0 }, 1],
  ['nothing', 0, 0, fine, 0],
])('%s', (_, characters, used, tariff, micros) => {
  expect(priceOf(characters, used, tariff)).toBe(micros)
})

test('what is asked for in pieces costs as much as at once, where a character costs whole micros', () => {
  const tariff = { ...fine, freeCharacters: 2_500 }
  let used = 0
  let sum = 0
  for (const characters of [700, 1, 1_799, 400, 3_000]) {
    sum += priceOf(characters, used, tariff)
    used += characters
  }
  expect(sum).toBe(priceOf(used, 0, tariff))
})

test('a month ends at midnight UTC, and what is free begins anew', () => {
  expect([monthOf(new Date('2026-11-30T23:59:59.999Z')), monthOf(new Date('2026-12-01T00:00:00Z')), monthOf(new Date('2026-12-31T23:30:00-02:00'))]).toEqual(['2026-11', '2026-12', '2027-01'])
})
