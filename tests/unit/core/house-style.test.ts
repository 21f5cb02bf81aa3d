import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Ajv } from 'ajv'
import { passageKinds } from '#core/script/script'
import { defaultHouseStyle, houseStyleFileSchema, houseStyleOfFile, patchBetween, patchHouseStyle, restBetween, styleFields, withStyleFields, type HouseStyle, type HouseStyleFile } from '#core/style/house-style'
import { presetNames, presetRules } from '#core/style/presets'
import { newRule, type Rule } from '#core/style/rule'
import { root } from '../../support/paths'

describe('house style', () => {
  // The values the product promises for its first house style.
  test('has the promised rests', () => {
    expect(defaultHouseStyle.rests).toMatchObject({
      title: { afterMs: 1000 }, heading: { beforeMs: 100, afterMs: 250 }, paragraph: { afterMs: 600 },
      listItem: { afterMs: 350 }, quotation: { beforeMs: 600, afterMs: 600 },
    })
    expect(defaultHouseStyle.sentenceRestMs).toBe(300)
  })

  // Rows: the passage before; columns: title, heading, paragraph, listItem, quotation, tableRow, note, sceneBreak. Behind the last item of a list is the rest of a paragraph.
  const table = {
    title: [1000, 1000, 1000, 1000, 1000, 1000, 1000, 1000],
    heading: [250, 250, 250, 250, 600, 250, 400, 250],
    paragraph: [600, 600, 600, 600, 600, 600, 600, 600],
    listItem: [600, 600, 600, 350, 600, 600, 600, 600],
    quotation: [600, 600, 600, 600, 600, 600, 600, 600],
    tableRow: [350, 350, 350, 350, 600, 350, 400, 350],
    note: [600, 600, 600, 600, 600, 600, 600, 600],
    sceneBreak: [1200, 1200, 1200, 1200, 1200, 1200, 1200, 1200],
  }
  const pairs = passageKinds.flatMap(before => passageKinds.map((after, column) => [before, after, table[before][column]!] as const))
  test.each(pairs)('between %s and %s lie %i ms', (before, after, ms) => {
    expect(restBetween(defaultHouseStyle, { kind: before }, { kind: after })).toBe(ms)
  })

  test('a patch changes what it names and nothing else', () => {
    const patched = patchHouseStyle(defaultHouseStyle, { rests: { heading: { afterMs: 400 } } })
    expect(patched.rests.heading).toEqual({ beforeMs: 100, afterMs: 400 })
    expect({ ...patched, rests: { ...patched.rests, heading: defaultHouseStyle.rests.heading } }).toEqual(defaultHouseStyle)
  })
})

describe('headings of a level', () => {
  test('have rests of their own, or those of all headings', () => {
    const style = { ...defaultHouseStyle, headingRests: { 1: { beforeMs: 900, afterMs: 800 } } }
    expect(restBetween(style, { kind: 'paragraph' }, { kind: 'heading', level: 1 })).toBe(900)
    expect(restBetween(style, { kind: 'heading', level: 1 }, { kind: 'paragraph' })).toBe(800)
    expect(restBetween(style, { kind: 'heading', level: 2 }, { kind: 'paragraph' })).toBe(250)
  })
})

describe('rules of a house style', () => {
  const rule = (id: string, on = true): Rule => newRule(id, 'numbers', on) as Rule
  const style = { ...defaultHouseStyle, rules: [rule('a'), rule('b'), rule('c')] }
  const ids = (patched: HouseStyle): string[] => patched.rules.map(each => each.id)

  test('are changed, taken out, added and put in order by a patch; one that the order does not name comes last', () => {
    expect(ids(patchHouseStyle(style, { rules: { b: null, d: rule('d') }, order: ['c', 'a'] }))).toEqual(['c', 'a', 'd'])
    expect(patchHouseStyle(style, { rules: { a: rule('a', false) } }).rules[0]!.on).toBe(false)
  })

  test('become those of another house style by the patch between the two, and come back', () => {
    const other: HouseStyle = { ...style, name: 'Other', sentenceRestMs: 1, headingRests: { 2: { beforeMs: 1, afterMs: 2 } }, rules: [rule('c', false), rule('x')] }
    expect(patchHouseStyle(style, patchBetween(style, other))).toEqual(other)
    expect(withStyleFields(style, styleFields(other))).toEqual(other)
  })

  test('of every preset are accepted by the published schema, and survive JSON', () => {
    const validate = new Ajv({ discriminator: true }).compile(houseStyleFileSchema)
    for (const name of presetNames) {
      const file = JSON.parse(JSON.stringify({ ...defaultHouseStyle, rules: presetRules(name) })) as HouseStyleFile
      expect([validate(file), validate.errors]).toEqual([true, null])
      expect(houseStyleOfFile(style, file).rules).toEqual(presetRules(name))
    }
    expect(JSON.parse(readFileSync(join(root, 'docs/house-style.schema.json'), 'utf8'))).toEqual(JSON.parse(JSON.stringify(houseStyleFileSchema)))
  })

  test.each([
    ['an unknown kind', { id: 'x', on: true, does: 'sing' }], ['no switch', { id: 'x', does: 'numbers', how: 'cardinal' }], ['a rest that is negative', { id: 'x', on: true, does: 'dash', restMs: -1 }],
    ['an option of another kind', { id: 'x', on: true, does: 'dates', restMs: 100 }], ['an empty scope', { id: 'x', on: true, does: 'dates', scope: {} }],
  ])('with %s are refused', (_, wrong) => {
    expect(new Ajv({ discriminator: true }).validate(houseStyleFileSchema, { rules: [wrong] })).toBe(false)
  })
})
