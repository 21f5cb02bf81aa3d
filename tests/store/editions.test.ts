import { plainContent, writtenText } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import type { Operation } from '#shared/operations'
import { changeEdition, loadEdition } from '../../store/editions'
import { applyOperations } from '../../store/operations'
import { migrate } from '../../store/migrate'
import { CastingRow, EditionRow, HouseStyleRow, PartRow, PassageRow, ProductionRow, RoleRow } from '../../store/models'
import { casting } from '../support/casting'
import { ownDatabase, part, production, removedForGood } from '../support/database'

const { database } = ownDatabase()

const labels = async (editionId: string): Promise<string[]> => (await PartRow.findAll({ where: { editionId }, order: [['rank', 'ASC']] })).map(row => row.label)
const partsOf = (editionId: string): Promise<PartRow[]> => PartRow.findAll({ where: { editionId }, order: [['rank', 'ASC']] })
const passagesOf = (partId: string): Promise<PassageRow[]> => PassageRow.findAll({ where: { partId }, order: [['rank', 'ASC']] })
const setText = (passage: PassageRow, text: string, revision = passage.revision): Operation =>
  ({ op: 'setContent', passageId: passage.id, revision, content: plainContent(text) })

describe('a production', () => {
  test('keeps its parts and passages in order', async () => {
    const many = Array.from({ length: 130 }, (_, index) => part(`Part ${index + 1}`, 'a', 'b'))
    const id = await production(database(), ...many)
    expect(await labels(id)).toEqual(many.map(each => each.label))
    const [first] = await partsOf(id)
    expect((await passagesOf(first!.id)).map(passage => [passage.kind, writtenText(passage.content)])).toEqual([['title', 'Part 1'], ['paragraph', 'a'], ['paragraph', 'b']])
  })

  test('has the first house style and the chosen voice', async () => {
    const loaded = await loadEdition(await production(database(), part('One')))
    expect(loaded.style).toEqual(defaultHouseStyle)
    expect(loaded.casting).toEqual(casting)
  })

  test('has the narrator that was made with it, whatever the clock says of the other roles', async () => {
    const id = await production(database(), part('One', 'MENTOR: A word.'))
    await applyOperations(database(), id, 'window-1', [{ op: 'dialogue', roles: [{ label: 'MENTOR', role: 'Mentor' }] }])
    // Made while the clock was far behind: ids begin with the time.
    const { edition } = await loadEdition(id)
    await database().sequelize.transaction(async transaction => {
      const early = await RoleRow.create({ id: '01000000-0000-7000-8000-000000000000', productionId: edition.productionId, name: 'Earlier' }, { transaction })
      await CastingRow.create({ roleId: early.id, editionId: id, ...casting, voice: 'de' }, { transaction })
    })
    const loaded = await loadEdition(id)
    expect(loaded.roles.map(role => role.name)).toEqual(['Narrator', 'Mentor', 'Earlier'])
    expect(loaded.casting).toEqual(casting)
  })

  test('is removed with all that belongs to it', async () => {
    const id = await production(database(), part('One', 'a'))
    const { edition } = await loadEdition(id)
    await removedForGood(database(), id)
    expect(await Promise.all([ProductionRow.count({ where: { id: edition.productionId } }), EditionRow.count({ where: { id } }), PartRow.count({ where: { editionId: id } }), HouseStyleRow.count({ where: { id: edition.houseStyleId } })])).toEqual([0, 0, 0, 0])
    await expect(loadEdition(id)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  })

  test('changes of title, language and voice are kept', async () => {
    const id = await production(database(), part('One'))
    await changeEdition(database(), id, { title: 'Another Year', author: null, language: 'de', casting: { ...casting, voice: 'de' } })
    const loaded = await loadEdition(id)
    expect([loaded.production.title, loaded.production.author, loaded.edition.language, loaded.casting.voice]).toEqual(['Another Year', null, 'de', 'de'])
  })
})

describe('operations', () => {
  test('rename, leave out and move', async () => {
    const id = await production(database(), part('A'), part('B'), part('C'))
    const [a, b, c] = await partsOf(id)
    expect(await applyOperations(database(), id, 'window-1', [
      { op: 'renamePart', partId: a!.id, revision: 1, label: ' Alpha ' },
      { op: 'includePart', partId: b!.id, revision: 1, included: false },
      { op: 'movePart', partId: c!.id, revision: 1, afterPartId: null },
    ])).toEqual({ revisions: { [a!.id]: 2, [b!.id]: 2, [c!.id]: 2 } })
    expect(await labels(id)).toEqual(['C', 'Alpha', 'B'])
    expect((await partsOf(id)).map(row => row.included)).toEqual([true, true, false])
  })

  test('a part can be moved between any two others, again and again', async () => {
    const id = await production(database(), part('A'), part('B'), part('C'))
    const [a, b, c] = await partsOf(id)
    for (let revision = 1; revision <= 40; revision += 2) {
      await applyOperations(database(), id, 'window-1', [{ op: 'movePart', partId: c!.id, revision, afterPartId: a!.id }])
      expect(await labels(id)).toEqual(['A', 'C', 'B'])
      await applyOperations(database(), id, 'window-1', [{ op: 'movePart', partId: c!.id, revision: revision + 1, afterPartId: b!.id }])
      expect(await labels(id)).toEqual(['A', 'B', 'C'])
    }
  })

  test('an edit of a text is kept in its canonical form, and what came in stays beside it', async () => {
    const id = await production(database(), part('A', 'Old words.'))
    const passage = (await passagesOf((await partsOf(id))[0]!.id))[1]!
    const content = { version: 2 as const, runs: [{ text: 'New ', on: [] }, { text: 'words.', on: [] }], directions: [] }
    await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: 1, content }])
    await passage.reload()
    expect([passage.content, passage.importedText, passage.revision]).toEqual([plainContent('New words.'), 'Old words.', 2])
  })

  test('a save that started from an old revision changes nothing and brings the text that is there', async () => {
    const id = await production(database(), part('A', 'First.', 'Second.'))
    const [, first, second] = await passagesOf((await partsOf(id))[0]!.id)
    await applyOperations(database(), id, 'window-1', [setText(first!, 'From the other window.')])
    expect(await applyOperations(database(), id, 'window-1', [setText(second!, 'Mine too.'), setText(first!, 'Mine.', 1)])).toEqual({
      conflicts: [{ id: first!.id, revision: 2, content: plainContent('From the other window.') }],
    })
    await second!.reload()
    expect(writtenText(second!.content)).toBe('Second.')
  })

  test('of two saves at the same moment one wins and the other is told', async () => {
    const id = await production(database(), part('A', 'First.'))
    const passage = (await passagesOf((await partsOf(id))[0]!.id))[1]!
    const results = await Promise.all(['one', 'two'].map(text => applyOperations(database(), id, 'window-1', [setText(passage, text)])))
    expect(results.map(result => Object.keys(result)[0]).sort()).toEqual(['conflicts', 'revisions'])
  })

  test('nothing of another production can be changed', async () => {
    const [mine, other] = [await production(database(), part('A')), await production(database(), part('B'))]
    const [foreign] = await partsOf(other)
    await expect(applyOperations(database(), mine, 'window-1', [{ op: 'renamePart', partId: foreign!.id, revision: 1, label: 'X' }])).rejects.toMatchObject({ problem: { code: 'not-found' } })
    expect(await labels(other)).toEqual(['B'])
  })
})

test('migrating a database that is up to date does nothing', async () => {
  await expect(migrate(database())).resolves.toBeUndefined()
})
