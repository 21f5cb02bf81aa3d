import { shelf } from '../../services/shelf'
import { loadEdition } from '../../store/editions'
import { EditionRow, HouseStyleRow, PartRow, ProductionRow } from '../../store/models'
import { readingStatus, startReading } from '../../store/readings'
import { dropEdition, dropOld, putBack, removedEditions, removeProduction } from '../../store/removed'
import { scoreEdition, takesOfParts } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import { ownDatabase, part, production, productionIdOf } from '../support/database'

// A production that is taken off the shelf, and put back.

const { database } = ownDatabase()
const onShelf = async (id: string): Promise<boolean> => (await shelf(database(), async () => true)).some(entry => entry.editionId === id)
const isRemoved = async (id: string): Promise<boolean> => (await removedEditions(database())).some(edition => edition.id === id)

test('it is off the shelf, stops being read, and comes back as it was', async () => {
  const id = await production(database(), part('Back', 'Back one.', 'Back two.'))
  const { parts } = await scoreEdition(id)
  await startReading(database(), takeIndex(database()), id, parts)
  await removeProduction(database(), await productionIdOf(id))
  expect([await onShelf(id), await isRemoved(id), (await readingStatus(database(), id))!.state]).toEqual([false, true, 'stopped'])
  await expect(loadEdition(id)).rejects.toMatchObject({ problem: { code: 'not-found' } })

  await putBack(database(), id)
  expect([await onShelf(id), await isRemoved(id)]).toEqual([true, false])
  expect(takesOfParts((await scoreEdition(id)).parts)).toEqual(takesOfParts(parts))
})

test('it goes for good after thirty days, or when one says so; others stay', async () => {
  const [old, recent, left] = [await production(database(), part('Old', 'Old one.')), await production(database(), part('Recent', 'Recent one.')), await production(database(), part('Left', 'Left one.'))]
  const { edition } = await loadEdition(old)
  for (const id of [old, recent]) await removeProduction(database(), await productionIdOf(id))
  await database().rows('UPDATE editions SET removed_at = now() - interval \'29 days\' WHERE id = $1', [recent])
  await database().rows('UPDATE editions SET removed_at = now() - interval \'31 days\' WHERE id = $1', [old])
  await dropOld(database())
  expect([await isRemoved(old), await isRemoved(recent), await onShelf(left)]).toEqual([false, true, true])
  expect([await ProductionRow.count({ where: { id: edition.productionId } }), await PartRow.count({ where: { editionId: old } }), await HouseStyleRow.count({ where: { id: edition.houseStyleId } })]).toEqual([0, 0, 0])

  await dropEdition(database(), recent)
  expect(await EditionRow.count({ where: { id: recent }, paranoid: false })).toBe(0)
  await expect(dropEdition(database(), left)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  await expect(putBack(database(), old)).rejects.toMatchObject({ problem: { code: 'not-found' } })
})
