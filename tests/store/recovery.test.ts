import { randomUUID } from 'node:crypto'
import { endDelivery, startDelivery, unfinishedDeliveries } from '../../store/deliveries'
import { DeliveryRow } from '../../store/models'
import { noteFault, startReading, stopReading, unfinishedChunks } from '../../store/readings'
import { scoreEdition } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import type { TakeIndex } from '../../takes/take'
import { ownDatabase, part, production } from '../support/database'
import { takeRecord } from '../support/takes'

const { database } = ownDatabase()
let index: TakeIndex
beforeAll(() => { index = takeIndex(database()) })

const makeAll = (keys: readonly string[]): Promise<void> =>
  index.add(keys.map(key => takeRecord(key)))

describe('what a worker that was killed finds when it comes back', () => {
  test('the chunks of running readings that still lack something', async () => {
    const texts = Array.from({ length: 100 }, (_, number) => `Recovered sentence ${number}.`)
    const id = await production(database(), part('Recovery', ...texts))
    const scored = await scoreEdition(id)
    const { readingId } = await startReading(database(), index, id, scored.parts)
    expect(await unfinishedChunks(database())).toEqual([{ readingId, chunk: 0 }, { readingId, chunk: 1 }])
    const keys = scored.parts[0]!.score.utterances.map(utterance => utterance.key)
    await makeAll(keys.slice(0, 64))
    expect(await unfinishedChunks(database())).toEqual([{ readingId, chunk: 1 }])
    await makeAll(keys.slice(64, 100))
    await noteFault(database(), readingId, keys[100]!, { code: 'x', message: 'y' })
    expect(await unfinishedChunks(database())).toEqual([])
  })

  test('nothing of a reading that was stopped', async () => {
    const id = await production(database(), part('Ended', 'An ended sentence.'))
    const { readingId } = await startReading(database(), index, id, (await scoreEdition(id)).parts)
    await stopReading(database(), readingId)
    expect((await unfinishedChunks(database())).filter(job => job.readingId === readingId)).toEqual([])
  })

  test('the deliveries it was making, not those of others and not those that ended', async () => {
    const [mine, other] = [randomUUID(), randomUUID()]
    const started = await Promise.all([mine, other, mine].map(async (worker, number) => {
      const id = await production(database(), part(`Delivery ${number}`, `Delivered sentence ${number}.`))
      const scored = await scoreEdition(id)
      await makeAll(scored.parts[0]!.score.utterances.map(utterance => utterance.key))
      const delivery = await DeliveryRow.findByPk(await startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id)), { rejectOnEmpty: true })
      return delivery.update({ worker })
    }))
    await endDelivery(database(), started[2]!, 'done')
    expect(await unfinishedDeliveries(mine)).toEqual([started[0]!.id])
  })

  test('its own claims at once, because it is the same holder', async () => {
    const holder = randomUUID()
    expect(await takeIndex(database(), holder).claim(['held'])).toEqual(['held'])
    expect(await takeIndex(database(), holder).claim(['held'])).toEqual(['held'])
    expect(await takeIndex(database()).claim(['held'])).toEqual([])
  })
})
