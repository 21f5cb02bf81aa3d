import { defaultSplit, type FileSplit } from '#core/delivery/file-split'
import { soundOf, type SheetFile } from '#core/runsheet/run-sheet'
import { plainContent, writtenText } from '#core/script/content'
import { newRule } from '#core/style/rule'
import type { Operation } from '#shared/operations'
import { changeEdition, loadEdition } from '../../store/editions'
import { undo } from '../../store/edits'
import { EditionRow, PartRow, PassageRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { askedFor, startReading, stopReading } from '../../store/readings'
import { referencesOf, scoreEdition, summary, takesOfParts as keysOf } from '../../store/score'
import { keptSheet, setSplit, sheetOf } from '../../store/run-sheet'
import { bringUpToDate, summariesOf, takesOfEdition } from '../../store/summaries'
import { takeIndex } from '../../store/take-index'
import { v7 as uuidv7 } from 'uuid'
import { casting } from '../support/casting'
import { ownDatabase, part, production } from '../support/database'
import { takeRecord } from '../support/takes'

const { database } = ownDatabase()
const window = 'window-1'

const divisions: readonly (FileSplit | null)[] = [{ ...defaultSplit, where: { by: 'sentence' } }, { ...defaultSplit, where: { by: 'whole' }, longestMs: 20_000 }, null]
const shown = (file: SheetFile): unknown => [file.name, file.title, file.key, file.sampleCount, soundOf(file), file.spans.map(span => span.units)]

/** What is kept, brought up to date, must be what compiling the whole script gives. */
async function expectTrue(id: string): Promise<void> {
  await bringUpToDate(database(), id)
  const scored = await scoreEdition(id)
  const takes = await takeIndex(database()).find(keysOf(scored.parts))
  const asked = await askedFor(database(), id, keysOf(scored.parts).filter(key => !takes.has(key)))
  const kept = (await summariesOf(database(), [id])).get(id)!
  expect(kept.map(part => part.summary)).toEqual(scored.parts.map(each => summary(each, referencesOf(each, takes), asked)))
  for (const split of divisions) {
    await setSplit(database(), id, split)
    const loaded = await loadEdition(id)
    const files = await sheetOf(database(), { ...scored, edition: loaded.edition }, takes)
    expect((await keptSheet(database(), loaded)).map(shown)).toEqual(files.map(shown))
  }
  expect(new Set(await takesOfEdition(database(), id))).toEqual(new Set(keysOf(scored.parts)))
}

const make = (keys: readonly string[], sampleCount = 30_000): Promise<void> =>
  takeIndex(database()).add(keys.map(key => takeRecord(key, { sampleCount })))
const passagesOf = async (id: string): Promise<PassageRow[]> => {
  const parts = await PartRow.findAll({ where: { editionId: id }, order: [['rank', 'ASC']] })
  return (await Promise.all(parts.map(row => PassageRow.findAll({ where: { partId: row.id }, order: [['rank', 'ASC']] })))).flat()
}
const setText = async (id: string, index: number, text: string): Promise<void> => {
  const { id: passageId, revision } = (await passagesOf(id))[index]!
  await applyOperations(database(), id, window, [{ op: 'setContent', passageId, revision, content: plainContent(text) }])
}
const apply = (id: string, ...operations: Operation[]): Promise<unknown> => applyOperations(database(), id, window, operations)

test('what is kept of a script is what compiling it gives, whatever is changed', async () => {
  const id = await production(database(), part('One', 'The bees fly. Varroa stays.', 'MENTOR: It is 5 km.'), part('Two', 'Second part of it.', 'Another passage.'), part('Empty'))
  await expectTrue(id)
  const [one, two] = await PartRow.findAll({ where: { editionId: id }, order: [['rank', 'ASC']] })
  await setText(id, 1, 'The bees do not fly. They stay.')
  await expectTrue(id)
  // The same text again, by way of the undo.
  await undo(database(), id, { window, direction: 'undo' })
  await expectTrue(id)
  await apply(id, { op: 'dialogue', roles: [{ label: 'MENTOR', role: 'Mentor' }] })
  await expectTrue(id)
  await apply(id, { op: 'setHouseStyle', patch: { sentenceRestMs: 777, rules: { short: newRule('short', 'abbreviations') }, order: ['short'] } })
  await expectTrue(id)
  await apply(id, { op: 'setWord', id: uuidv7(), shared: false, entry: { graphemes: ['Varroa'], language: 'en', said: [{ by: 'alias', text: 'the mite' }] } })
  await expectTrue(id)
  await apply(id, { op: 'renamePart', partId: one!.id, revision: one!.revision, label: 'First' }, { op: 'includePart', partId: two!.id, revision: two!.revision, included: false })
  await expectTrue(id)
  await apply(id, { op: 'movePart', partId: two!.id, revision: two!.revision + 1, afterPartId: null })
  await expectTrue(id)
  await changeEdition(database(), id, { casting: { ...casting, wordsPerMinute: 120 } })
  await expectTrue(id)
  await changeEdition(database(), id, { language: 'de' })
  await expectTrue(id)
  const kept = (await summariesOf(database(), [id])).get(id)!
  const [, mentor] = (await loadEdition(id)).roles
  expect(kept.map(({ summary: { label }, facts: { narrated, roles } }) => [label, narrated, roles])).toEqual([['Two', 3, {}], ['First', 2, { [mentor!.id]: 1 }], ['Empty', 1, {}]])
})

test('states and lengths follow the takes and readings: nothing is compiled for them', async () => {
  const id = await production(database(), part('Read', 'First one of it. Second one of it.', 'Third one of it.'), part('Later', 'Fourth one of it.'))
  await expectTrue(id)
  const scored = await scoreEdition(id)
  const keys = keysOf(scored.parts)
  await make(keys.slice(0, 2))
  await expectTrue(id)
  const { readingId } = await startReading(database(), takeIndex(database()), id, scored.parts)
  await expectTrue(id)
  await make(keys.slice(2, 4))
  await stopReading(database(), readingId)
  await expectTrue(id)
  await setText(id, 1, 'First one of it. Something new in it.')
  await expectTrue(id)
  // Around one without any sound the longest rest counts.
  await make(keysOf((await scoreEdition(id)).parts).filter(key => !keys.includes(key)), 0)
  await expectTrue(id)
})

test('an entry for all productions, and a house style that two have, make the others stale too', async () => {
  const [one, other] = [await production(database(), part('One', 'Varroa is here.')), await production(database(), part('Other', 'Varroa is there.'))]
  await EditionRow.update({ houseStyleId: (await EditionRow.findByPk(one, { rejectOnEmpty: true })).houseStyleId }, { where: { id: other } })
  for (const id of [one, other]) await expectTrue(id)
  await apply(one, { op: 'setWord', id: uuidv7(), shared: true, entry: { graphemes: ['Varroa'], language: 'en', said: [{ by: 'alias', text: 'the mite' }] } })
  for (const id of [one, other]) await expectTrue(id)
  await apply(one, { op: 'setHouseStyle', patch: { sentenceRestMs: 1234 } })
  for (const id of [one, other]) await expectTrue(id)
})

test('only what is stale is compiled, and where there is much, somebody else is asked to', async () => {
  const id = await production(database(), ...Array.from({ length: 6 }, (_, index) => part(`Part ${index}`, `A passage of part ${index}.`)))
  const asked: number[] = []
  const elsewhere = (_: string, bytes: number): Promise<boolean> => {
    asked.push(bytes)
    return Promise.resolve(false)
  }
  await bringUpToDate(database(), id, elsewhere)
  await bringUpToDate(database(), id, elsewhere)
  await setText(id, 1, 'A changed passage.')
  await bringUpToDate(database(), id, elsewhere)
  expect(asked).toHaveLength(2)
  expect(asked[1]!).toBeLessThan(asked[0]! / 4)
  expect(writtenText((await passagesOf(id))[1]!.content)).toBe('A changed passage.')
})

test('an edit that comes while a part is compiled makes no wrong summary', async () => {
  const id = await production(database(), part('Raced', 'It is as it was.'))
  await bringUpToDate(database(), id)
  await setText(id, 1, 'It is quite another one now.')
  // The part is found stale, then it is changed back before its text is read.
  await bringUpToDate(database(), id, async () => {
    await undo(database(), id, { window, direction: 'undo' })
    return false
  })
  await expectTrue(id)
  await undo(database(), id, { window, direction: 'redo' })
  await expectTrue(id)
})
