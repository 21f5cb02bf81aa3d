import { writtenText, plainContent } from '#core/script/content'
import type { Operation } from '#shared/operations'
import { loadEdition } from '../../store/editions'
import { historyOf, undo } from '../../store/edits'
import { applyOperations } from '../../store/operations'
import { PartRow, PassageRow } from '../../store/models'
import { ownDatabase, part, production } from '../support/database'

const { database } = ownDatabase()

const mine = 'window-of-mine'
const other = 'another-window'
let id: string
beforeEach(async () => { id = await production(database(), part('One', 'a', 'b'), part('Two', 'c'), part('Three', 'd')) })

/** The script as text: each part's label and passages. */
async function script(): Promise<string[]> {
  const parts = await PartRow.findAll({ where: { editionId: id }, order: [['rank', 'ASC']] })
  return Promise.all(parts.map(async row => {
    const passages = await PassageRow.findAll({ where: { partId: row.id }, order: [['rank', 'ASC']] })
    return `${row.included ? '' : '–'}${row.label}: ${passages.map(passage => writtenText(passage.content)).join(' ')}`
  }))
}

const partOf = (label: string): Promise<PartRow> => PartRow.findOne({ where: { editionId: id, label }, rejectOnEmpty: true })
async function passageOf(text: string): Promise<PassageRow> {
  const parts = await PartRow.findAll({ where: { editionId: id } })
  const passages = await PassageRow.findAll({ where: { partId: parts.map(row => row.id) } })
  return passages.find(passage => writtenText(passage.content) === text)!
}
const operate = async (operation: Operation, window = mine): Promise<unknown> => applyOperations(database(), id, window, [operation])
async function write(from: string, to: string, window = mine): Promise<void> {
  const passage = await passageOf(from)
  await operate({ op: 'setContent', passageId: passage.id, revision: passage.revision, content: plainContent(to) }, window)
}
const back = (window = mine) => undo(database(), id, { window, direction: 'undo' })
const again = (window = mine) => undo(database(), id, { window, direction: 'redo' })

const operations: readonly (readonly [string, () => Promise<Operation>, readonly string[]])[] = [
  ['a text', async () => ({ op: 'setContent', passageId: (await passageOf('b')).id, revision: 1, content: plainContent('B') }), ['One: One a B', 'Two: Two c', 'Three: Three d']],
  ['a name', async () => ({ op: 'renamePart', partId: (await partOf('Two')).id, revision: 1, label: 'Second' }), ['One: One a b', 'Second: Two c', 'Three: Three d']],
  ['leaving out', async () => ({ op: 'includePart', partId: (await partOf('Two')).id, revision: 1, included: false }), ['One: One a b', '–Two: Two c', 'Three: Three d']],
  ['an order', async () => ({ op: 'movePart', partId: (await partOf('One')).id, revision: 1, afterPartId: (await partOf('Three')).id }), ['Two: Two c', 'Three: Three d', 'One: One a b']],
  ['a merge', async () => ({ op: 'mergePart', partId: (await partOf('One')).id, revision: 1, nextPartId: (await partOf('Two')).id }), ['One: One a b Two c', 'Three: Three d']],
  ['a split', async () => ({ op: 'splitPart', partId: (await partOf('One')).id, revision: 1, passageId: (await passageOf('b')).id, label: 'Half' }), ['One: One a', 'Half: b', 'Two: Two c', 'Three: Three d']],
]

describe('rests of the house style', () => {
  const restOf = async () => (await loadEdition(id)).style
  const quotation = (beforeMs: number): Operation => ({ op: 'setHouseStyle', patch: { rests: { quotation: { beforeMs } } } })

  test('are undone and redone among the edits of the text', async () => {
    const before = await restOf()
    await operate({ op: 'setHouseStyle', patch: { sentenceRestMs: 450, rests: { heading: { afterMs: 900 } } } })
    await write('a', 'A')
    expect((await restOf()).rests.heading).toEqual({ beforeMs: 100, afterMs: 900 })
    expect(await back()).toMatchObject({ done: { kind: 'text' }, undo: { kind: 'style', subject: 'rest after headings and 1 more' } })
    expect(await back()).toMatchObject({ done: { kind: 'style' }, partId: null })
    expect(await restOf()).toEqual(before)
    expect(await again()).toMatchObject({ done: { kind: 'style' } })
    expect((await restOf()).sentenceRestMs).toBe(450)
  })

  test('that were changed since stay, and are shown; others are undone all the same', async () => {
    await operate(quotation(800))
    await operate({ op: 'setHouseStyle', patch: { sentenceRestMs: 100 } }, other)
    expect(await back()).toMatchObject({ done: { kind: 'style' } })
    expect((await restOf()).sentenceRestMs).toBe(100)
    await again()
    await operate(quotation(700), other)
    expect(await back()).toMatchObject({ conflicts: [{ of: 'style', wanted: 'quotation: 600 ms before, 600 ms after', now: 'quotation: 700 ms before, 600 ms after' }] })
    expect((await restOf()).rests.quotation.beforeMs).toBe(700)
  })

  test('that are so already make no edit', async () => {
    await operate(quotation(600))
    expect(await historyOf(id, mine)).toEqual({ undo: null, redo: null })
  })
})

describe('undo and redo', () => {
  test.each(operations)('take back %s and bring it again', async (_, operation, changed) => {
    const before = await script()
    await operate(await operation())
    expect(await script()).toEqual(changed)
    await back()
    expect(await script()).toEqual(before)
    await again()
    expect(await script()).toEqual(changed)
  })

  test('go through all edits of a window, of every kind, and back', async () => {
    const states = [await script()]
    for (const [, operation] of operations) {
      const planned = await operation().catch(() => null)
      if (planned === null) continue
      if (!('revision' in planned)) throw new Error('Only operations on one thing are tried here.')
      const { revision } = 'partId' in planned ? (await PartRow.findByPk(planned.partId))! : (await PassageRow.findByPk(planned.passageId))!
      await operate({ ...planned, revision })
      states.push(await script())
    }
    for (const state of states.slice(0, -1).reverse()) {
      await back()
      expect(await script()).toEqual(state)
    }
    expect(await historyOf(id, mine)).toMatchObject({ undo: null, redo: { kind: 'text', subject: '“B”' } })
    for (const state of states.slice(1)) {
      await again()
      expect(await script()).toEqual(state)
    }
    expect(await again()).toMatchObject({ done: null, redo: null })
  })

  test('do only what this window did', async () => {
    await write('a', 'A')
    await write('c', 'C', other)
    expect(await back()).toMatchObject({ done: { kind: 'text' }, passages: [{ content: plainContent('a') }] })
    expect(await script()).toEqual(['One: One a b', 'Two: Two C', 'Three: Three d'])
    expect(await back()).toMatchObject({ done: null })
  })

  test('a new edit ends what could be redone', async () => {
    await write('a', 'A')
    await back()
    await write('b', 'B')
    expect(await historyOf(id, mine)).toEqual({ undo: { kind: 'text', subject: '“B”' }, redo: null })
  })
})

describe('an undo that meets a later edit', () => {
  test('is refused with both texts, and nothing is changed', async () => {
    await write('a', 'A')
    await write('A', 'A later', other)
    expect(await back()).toMatchObject({ conflicts: [{ of: 'passage', wanted: 'a', now: 'A later' }] })
    expect((await script())[0]).toBe('One: One A later b')
  })

  test('can be given up, so that the edit before it is the next', async () => {
    await write('b', 'B')
    await write('a', 'A')
    await write('A', 'A later', other)
    const { editId } = await back() as { editId: string }
    await undo(database(), id, { window: mine, direction: 'undo', giveUp: editId })
    await back()
    expect((await script())[0]).toBe('One: One A later b')
  })

  test('works when the later edit was undone itself', async () => {
    await write('a', 'A')
    await write('A', 'A later', other)
    await back(other)
    await back()
    expect((await script())[0]).toBe('One: One a b')
  })

  test('of a part that has got more since is refused: nothing may be lost with it', async () => {
    await operate(await operations[5]![1]())
    const [half, two] = [await partOf('Half'), await partOf('Two')]
    await operate({ op: 'mergePart', partId: half.id, revision: half.revision, nextPartId: two.id }, other)
    expect(await back()).toMatchObject({ conflicts: [{ of: 'part', now: 'Half' }] })
    expect(await script()).toEqual(['One: One a', 'Half: b Two c', 'Three: Three d'])
  })

  test('keeps a text that was changed inside a part that goes', async () => {
    await operate(await operations[5]![1]())
    await write('b', 'b, better', other)
    await back()
    expect((await script())[0]).toBe('One: One a b, better')
  })
})

test('a part comes back beside one that has taken its place meanwhile', async () => {
  const [one, two, three] = [await partOf('One'), await partOf('Two'), await partOf('Three')]
  await operate({ op: 'movePart', partId: two.id, revision: 1, afterPartId: three.id })
  await operate({ op: 'splitPart', partId: one.id, revision: 1, passageId: (await passageOf('b')).id, label: 'Half' }, other)
  expect((await partOf('Half')).rank).toBe(two.rank)
  await back()
  expect((await script()).map(line => line.split(':')[0])).toEqual(['One', 'Half', 'Two', 'Three'])
  await again()
  expect((await script()).map(line => line.split(':')[0])).toEqual(['One', 'Half', 'Three', 'Two'])
})

test('a merge with a part that is not the next any more, and a split at the first passage, are refused', async () => {
  const [one, three] = [await partOf('One'), await partOf('Three')]
  expect(await operate({ op: 'mergePart', partId: one.id, revision: 1, nextPartId: three.id })).toMatchObject({ conflicts: [{ id: one.id }] })
  await expect(operate({ op: 'splitPart', partId: one.id, revision: 1, passageId: (await passageOf('One')).id, label: 'x' })).rejects.toMatchObject({ problem: { code: 'split-empty' } })
})
