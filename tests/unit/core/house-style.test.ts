import { passageKinds } from '#core/script/script'
import { defaultHouseStyle, patchHouseStyle, restBetween } from '#core/style/house-style'

describe('house style', () => {
  // The values the product promises for its first house style.
  test('has the promised rests', () => {
    expect(defaultHouseStyle.rests).toMatchObject({
      title: { afterMs: 1000 }, heading: { beforeMs: 100, afterMs: 250 }, paragraph: { afterMs: 600 },
      listItem: { afterMs: 350 }, quotation: { beforeMs: 600, afterMs: 600 },
    })
    expect(defaultHouseStyle.sentenceRestMs).toBe(300)
  })

  // Rows: the passage before; columns: title, heading, paragraph, listItem, quotation, tableRow, note.
  const table = {
    title: [1000, 1000, 1000, 1000, 1000, 1000, 1000],
    heading: [250, 250, 250, 250, 600, 250, 400],
    paragraph: [600, 600, 600, 600, 600, 600, 600],
    listItem: [350, 350, 350, 350, 600, 350, 400],
    quotation: [600, 600, 600, 600, 600, 600, 600],
    tableRow: [350, 350, 350, 350, 600, 350, 400],
    note: [600, 600, 600, 600, 600, 600, 600],
  }
  const pairs = passageKinds.flatMap(before => passageKinds.map((after, column) => [before, after, table[before][column]!] as const))
  test.each(pairs)('between %s and %s lie %i ms', (before, after, ms) => {
    expect(restBetween(defaultHouseStyle, before, after)).toBe(ms)
  })

  test('a patch changes what it names and nothing else', () => {
    const patched = patchHouseStyle(defaultHouseStyle, { rests: { heading: { afterMs: 400 } } })
    expect(patched.rests.heading).toEqual({ beforeMs: 100, afterMs: 400 })
    expect({ ...patched, rests: { ...patched.rests, heading: defaultHouseStyle.rests.heading } }).toEqual(defaultHouseStyle)
  })
})
