import { v7 as uuidv7 } from 'uuid'
import { plainContent, writtenText } from '#core/script/content'
import { anchorAt } from '#core/script/anchor'
import { newRule, type Rule } from '#core/style/rule'
import type { Operation } from '#shared/operations'
import { houseStyles, loadEdition } from '../../store/editions'
import { undo } from '../../store/edits'
import { HouseStyleRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { scoreEdition } from '../../store/score'
import { usesOfWords } from '../../store/words'
import { ownDatabase, part, production, removedForGood } from '../support/database'

const { database } = ownDatabase()
const window = 'a-window'

const produce = (title: string): Promise<string> => production(database(), part(title, 'Sell 5 kg now.'))
const operate = (id: string, ...operations: Operation[]) => applyOperations(database(), id, window, operations)
/** What follows the title. */
const spoken = async (id: string): Promise<string> => (await scoreEdition(id)).parts.flatMap(each => each.score.utterances.slice(1).map(utterance => utterance.text)).join(' ')
const passageOf = async (id: string) => (await scoreEdition(id)).parts[0]!.passages.at(-1)!
const revisionOf = async (id: string): Promise<number> => (await loadEdition(id)).edition.revision
const measures = newRule('m', 'measures') as Rule
const withMeasures: Operation = { op: 'setHouseStyle', patch: { rules: { m: measures }, order: ['m'] } }

test('a rule changes what is spoken and not what is written; undo and redo', async () => {
  const id = await produce('One')
  const before = await loadEdition(id)
  await operate(id, withMeasures)
  expect(await spoken(id)).toBe('Sell five kilograms now.')
  expect(writtenText((await passageOf(id)).content)).toBe('Sell 5 kg now.')
  await undo(database(), id, { window, direction: 'undo' })
  expect(await spoken(id)).toBe('Sell 5 kg now.')
  expect((await loadEdition(id)).style).toEqual(before.style)
  await undo(database(), id, { window, direction: 'redo' })
  expect(await spoken(id)).toBe('Sell five kilograms now.')
})

test('a change of one rule stands when another one is undone', async () => {
  const id = await produce('Two')
  await operate(id, withMeasures)
  await applyOperations(database(), id, 'other-window', [{ op: 'setHouseStyle', patch: { rules: { n: newRule('n', 'numbers') as Rule } } }])
  const rules = async () => (await loadEdition(id)).style.rules.filter(each => each.on).map(each => each.id)
  await operate(id, { op: 'setHouseStyle', patch: { rules: { m: { ...measures, on: false } } } })
  expect(await rules()).toEqual(['n'])
  await undo(database(), id, { window, direction: 'undo' })
  expect(await rules()).toEqual(['m', 'n'])
})

test('a pattern that is none is refused, and nothing is changed', async () => {
  const id = await produce('Three')
  await expect(operate(id, { op: 'setHouseStyle', patch: { rules: { x: { id: 'x', on: false, does: 'own', find: '(a', isPattern: true } } } })).rejects.toThrow(/not a pattern/u)
  expect((await loadEdition(id)).style.rules.some(each => each.id === 'x')).toBe(false)
})

test('a hit is switched off, also when text before it changes, and on again by undo', async () => {
  const id = await produce('Four')
  await operate(id, withMeasures)
  const passage = await passageOf(id)
  await operate(id, { op: 'decide', id: uuidv7(), decision: { about: 'rule', rule: 'm', at: anchorAt(passage.id, writtenText(passage.content), 5, 9) } })
  expect(await spoken(id)).toBe('Sell 5 kg now.')
  await operate(id, { op: 'setContent', passageId: passage.id, revision: 1, content: plainContent('Then sell 5 kg now, and 7 kg.') })
  expect(await spoken(id)).toBe('Then sell 5 kg now, and seven kilograms.')
  await undo(database(), id, { window, direction: 'undo' })
  await undo(database(), id, { window, direction: 'undo' })
  expect(await spoken(id)).toBe('Sell five kilograms now.')
})

describe('a house style that two productions have', () => {
  test('changes for both, which are told; a copy is a production’s own; it goes with the last of them', async () => {
    const [first, second] = [await produce('Five'), await produce('Six')]
    const { edition } = await loadEdition(first)
    await operate(second, { op: 'chooseHouseStyle', houseStyleId: edition.houseStyleId })
    const before = await revisionOf(first)
    await operate(second, withMeasures)
    expect([await spoken(first), await spoken(second)]).toEqual(['Sell five kilograms now.', 'Sell five kilograms now.'])
    expect(await revisionOf(first)).toBeGreaterThan(before)
    expect((await houseStyles(database())).find(style => style.id === edition.houseStyleId)).toMatchObject({ productions: 2 })

    await operate(second, { op: 'copyHouseStyle' })
    await operate(second, { op: 'setHouseStyle', patch: { rules: { m: null } } })
    expect([await spoken(first), await spoken(second)]).toEqual(['Sell five kilograms now.', 'Sell 5 kg now.'])

    const own = (await loadEdition(second)).edition.houseStyleId
    await operate(second, { op: 'chooseHouseStyle', houseStyleId: edition.houseStyleId })
    expect(await spoken(second)).toBe('Sell five kilograms now.')
    expect(await undo(database(), second, { window, direction: 'undo' })).toMatchObject({ done: { kind: 'houseStyle' } })
    expect((await loadEdition(second)).edition.houseStyleId).toBe(own)
    await undo(database(), second, { window, direction: 'redo' })
    await removedForGood(database(), first)
    expect(await spoken(second)).toBe('Sell five kilograms now.')
    await removedForGood(database(), second)
    expect(await HouseStyleRow.findByPk(edition.houseStyleId)).toBeNull()
  })

  test('that is gone cannot be put back', async () => {
    const [first, second] = [await produce('Eight'), await produce('Nine')]
    const { edition } = await loadEdition(first)
    await operate(second, { op: 'chooseHouseStyle', houseStyleId: edition.houseStyleId })
    await operate(second, { op: 'copyHouseStyle' })
    await removedForGood(database(), first)
    expect(await undo(database(), second, { window, direction: 'undo' })).toMatchObject({ conflicts: [{ of: 'edition', wanted: null }] })
  })
})

test('an entry of the wordbook counts where it speaks for words that a rule made', async () => {
  const id = await produce('Seven')
  const word = uuidv7()
  await operate(id, withMeasures, { op: 'setWord', id: word, shared: false, entry: { graphemes: ['kilograms'], language: 'en', said: [{ by: 'alias', text: 'kilos' }] } })
  expect(await spoken(id)).toBe('Sell five kilos now.')
  expect((await usesOfWords(await loadEdition(id))).get(word)).toBe(1)
})
