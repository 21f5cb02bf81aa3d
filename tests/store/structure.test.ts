import type { ProposedPart } from '#core/manuscript/structure'
import { emphasised, plainContent, writtenText } from '#core/script/content'
import { defaultChoices } from '#core/manuscript/choices'
import { applyOperations } from '../../store/operations'
import { loadScript } from '../../store/divide'
import { undo } from '../../store/edits'
import { ManuscriptRow, PartRow, PassageRow } from '../../store/models'
import { compareWith, takeOverVersion } from '../../store/new-version'
import { part, production, ownDatabase } from '../support/database'

const { database } = ownDatabase()
const window = 'a-test-window'
const manuscriptId = '01890000-0000-7000-8000-000000000001'
let edition = ''

/** The script as text: parts with their passages. */
async function script(): Promise<[string, string[]][]> {
  const { parts, passages } = await loadScript(edition)
  return parts.map(each => [`${each.label}${each.included ? '' : ' (out)'}`, passages.get(each.id)!.map(row => `${row.kind === 'title' ? '# ' : ''}${writtenText(row.content)}`)])
}

const rows = async (): Promise<PassageRow[]> => [...(await loadScript(edition)).passages.values()].flat()
const passage = async (text: string): Promise<PassageRow> => (await rows()).find(row => writtenText(row.content) === text)!
const parts = () => PartRow.findAll({ where: { editionId: edition }, order: [['rank', 'ASC']] })

const one = part('One', 'The bees came home at dusk.', 'Nobody saw them but the dog.')
const two = part('Two', 'Then it rained all night.')
const three = part('Three', 'The roof held, as it always does.')

beforeEach(async () => {
  await ManuscriptRow.destroy({ where: {} })
  edition = await production(database(), one, two, three)
})

describe('dividing a script anew', () => {
  const divide = async (pattern: string) => applyOperations(database(), edition, window, [
    { op: 'divide', split: { by: 'pattern', pattern }, parts: (await parts()).map(({ id, revision }) => ({ id, revision })) },
  ])

  test('moves passages, keeps edits and names, and is undone and redone as one edit', async () => {
    const [first] = await parts()
    await applyOperations(database(), edition, window, [{ op: 'renamePart', partId: first!.id, revision: first!.revision, label: 'My First' }])
    const dusk = await passage('The bees came home at dusk.')
    await applyOperations(database(), edition, window, [{ op: 'setContent', passageId: dusk.id, revision: dusk.revision, content: plainContent('The bees came home late.') }])
    const before = await script()
    await divide('One|Nobody|Three')
    const divided: [string, string[]][] = [
      ['My First', ['# One', 'The bees came home late.']], ['Nobody saw them but the dog.', ['# Nobody saw them but the dog.', 'Two', 'Then it rained all night.']],
      ['Three', ['# Three', 'The roof held, as it always does.']],
    ]
    expect(await script()).toEqual(divided)
    expect((await parts())[0]!.id).toBe(first!.id)
    await undo(database(), edition, { window, direction: 'undo' })
    expect(await script()).toEqual(before)
    await undo(database(), edition, { window, direction: 'redo' })
    expect(await script()).toEqual(divided)
  })

  test('that started from other parts than there are now is refused with what is there', async () => {
    const seen = (await parts()).map(({ id, revision }) => ({ id, revision }))
    await applyOperations(database(), edition, window, [{ op: 'renamePart', partId: seen[1]!.id, revision: seen[1]!.revision, label: 'Other' }])
    expect(await applyOperations(database(), edition, window, [{ op: 'divide', split: { by: 'even', minutes: 1 }, parts: seen }])).toMatchObject({ conflicts: [{ id: seen[1]!.id, label: 'Other' }] })
  })
})

describe('several parts at once', () => {
  test('are merged, left out and moved as one edit', async () => {
    const before = await script()
    const [a, b, c] = await parts()
    await applyOperations(database(), edition, window, [
      { op: 'mergePart', partId: a!.id, revision: a!.revision, nextPartId: b!.id }, { op: 'mergePart', partId: a!.id, revision: a!.revision, nextPartId: c!.id },
    ])
    expect((await script()).map(([label, texts]) => [label, texts.length])).toEqual([['One', 7]])
    await undo(database(), edition, { window, direction: 'undo' })
    expect(await script()).toEqual(before)
    await applyOperations(database(), edition, window, [
      { op: 'movePart', partId: a!.id, revision: (await parts())[0]!.revision, afterPartId: c!.id }, { op: 'movePart', partId: b!.id, revision: (await parts())[1]!.revision, afterPartId: a!.id },
    ])
    expect((await script()).map(([label]) => label)).toEqual(['Three', 'One', 'Two'])
  })
})

describe('a new version of the manuscript', () => {
  const takeOver = async (version: readonly ProposedPart[], keep: readonly string[] = []): Promise<void> => {
    const content = { format: 'text', title: null, author: null, language: 'en', languageSource: 'declared' as const, units: [], problems: [], blocks: [] }
    await ManuscriptRow.upsert({ id: manuscriptId, fileName: 'v2.md', sha256: 'x', content })
    await takeOverVersion(database(), edition, window, { manuscriptId, parts: version, choices: defaultChoices(content), keep: new Set(keep) })
  }

  test('what is equal keeps its row, its edits and its directions; what differs is taken', async () => {
    const [dusk, rain] = [await passage('The bees came home at dusk.'), await passage('Then it rained all night.')]
    await applyOperations(database(), edition, window, [
      { op: 'setContent', passageId: dusk.id, revision: 1, content: plainContent('The bees came home late.') },
      { op: 'setContent', passageId: rain.id, revision: 1, content: emphasised('Then it rained all night.', [[8, 14]]) },
    ])
    const before = await script()
    const [first, ...rest] = await parts()
    await applyOperations(database(), edition, window, [{ op: 'includePart', partId: rest[1]!.id, revision: rest[1]!.revision, included: false }])
    await takeOver([
      part('One', 'The bees came home at dusk.', 'A wholly new passage has come in here.'), part('Two', 'Then it rained all night long.'), part('Between', 'Something quite different stands in here.'), three,
    ])
    expect(await script()).toEqual([
      ['One', ['# One', 'The bees came home late.', 'A wholly new passage has come in here.']], ['Two', ['# Two', 'Then it rained all night long.']],
      ['Between', ['# Between', 'Something quite different stands in here.']], ['Three (out)', ['# Three', 'The roof held, as it always does.']],
    ])
    expect((await parts())[0]!.id).toBe(first!.id)
    expect((await PassageRow.findByPk(rain.id))!.content.directions).toEqual([{ id: 'e1', kind: 'emphasis', level: 'moderate' }])
    expect((await PassageRow.findByPk(dusk.id))!.importedText).toBe('The bees came home at dusk.')
    await undo(database(), edition, { window, direction: 'undo' })
    await undo(database(), edition, { window, direction: 'undo' })
    expect(await script()).toEqual(before)
  })

  test('a passage that both sides changed keeps the script’s text when that is chosen, and one that is gone stays when that is', async () => {
    const [dusk, dog] = [await passage('The bees came home at dusk.'), await passage('Nobody saw them but the dog.')]
    await applyOperations(database(), edition, window, [{ op: 'setContent', passageId: dusk.id, revision: 1, content: plainContent('The bees came home late.') }])
    const version = [part('One', 'The bees came home before dusk.'), two, three]
    expect(compareWith(await loadScript(edition), version).rows.filter(row => row.state !== 'same').map(row => [row.state, row.conflict])).toEqual([['edited', true], ['gone', false]])
    await takeOver(version, [dusk.id, dog.id])
    expect((await script())[0]).toEqual(['One', ['# One', 'The bees came home late.', 'Nobody saw them but the dog.']])
    expect(compareWith(await loadScript(edition), version).rows.filter(row => row.state === 'edited')).toEqual([])
  })

  test('chapters in another order move, with the same rows', async () => {
    const ids = new Map((await parts()).map(each => [each.label, each.id]))
    await takeOver([three, one, two])
    expect((await parts()).map(each => [each.label, each.id])).toEqual(['Three', 'One', 'Two'].map(label => [label, ids.get(label)]))
    expect((await script())[0]![1]).toHaveLength(2)
  })

  test('what was merged and divided here stays so', async () => {
    const [a, b] = await parts()
    await applyOperations(database(), edition, window, [{ op: 'mergePart', partId: a!.id, revision: a!.revision, nextPartId: b!.id }])
    await takeOver([one, part('Two', 'Then it rained all night and all day.'), three])
    expect((await script()).map(([label, texts]) => [label, texts.length])).toEqual([['One', 5], ['Three', 2]])
    expect((await script())[0]![1].at(-1)).toBe('Then it rained all night and all day.')
  })

  test('the same version again changes nothing', async () => {
    const before = await script()
    const revisions = (await rows()).map(row => [row.id, row.importedText, row.revision]).sort()
    await takeOver([one, two, three])
    expect(await script()).toEqual(before)
    expect((await rows()).map(row => [row.id, row.importedText, row.revision]).sort()).toEqual(revisions)
  })
})
