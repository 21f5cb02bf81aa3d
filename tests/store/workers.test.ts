import { randomUUID } from 'node:crypto'
import type PgBoss from 'pg-boss'
import { endDelivery, startDelivery } from '../../store/deliveries'
import { DeliveryRow } from '../../store/models'
import { dropLostJobs, openQueue, readQueue, sendChunks, sendDelivery } from '../../store/queue'
import { readingStatus, startReading } from '../../store/readings'
import { scoreEdition, takesOfParts as keysOf } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import { abandonedWork, forgetWorker, noteWorker, queueLength, workersSeen } from '../../store/workers'
import { failDelivery } from '../../worker/deliver'
import { runJobs } from '../../worker/jobs'
import type { Workplace } from '../../worker/workplace'
import { ownDatabase, part, production } from '../support/database'
import { takeRecord } from '../support/takes'

const { database, url } = ownDatabase()
let queue: PgBoss
beforeAll(async () => { queue = await openQueue(url(), 'server') })
afterAll(() => queue.stop({ graceful: false }))

/** As if everything had happened so many seconds earlier. */
async function pass(seconds: number): Promise<void> {
  for (const [table, column] of [['readings', 'created_at'], ['deliveries', 'created_at'], ['workers', 'seen_at']]) {
    await database().rows(`UPDATE ${table} SET ${column} = ${column} - $1 * interval '1 second' RETURNING id`, [seconds])
  }
}

async function delivering(label: string): Promise<string> {
  const index = takeIndex(database())
  const scored = await scoreEdition(await production(database(), part(label, `${label} sentence.`)))
  await index.add(keysOf(scored.parts).map(key => takeRecord(key)))
  return startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id))
}

test('a worker counts while it has been seen lately', async () => {
  const id = randomUUID()
  await noteWorker(database(), id)
  expect(await workersSeen(database())).toEqual([{ id, problem: null }])
  await pass(31)
  expect(await workersSeen(database())).toEqual([])
  await pass(-86_400)
  // Seen tomorrow: the clock was put back, and nothing was heard since.
  expect(await workersSeen(database())).toEqual([])
  await noteWorker(database(), id)
  expect(await workersSeen(database())).toEqual([{ id, problem: null }])
  await noteWorker(database(), id, { code: 'engine-missing', message: 'It is not installed.' })
  expect(await workersSeen(database())).toEqual([{ id, problem: { code: 'engine-missing', message: 'It is not installed.' } }])
  await forgetWorker(database(), id)
  expect(await workersSeen(database())).toEqual([])
})

describe('work that nobody does', () => {
  test('is a delivery whose worker is gone, given to one worker only', async () => {
    const deliveryId = await delivering('Left')
    const worker = randomUUID()
    await noteWorker(database(), worker)
    await DeliveryRow.update({ worker }, { where: { id: deliveryId } })
    const others = [randomUUID(), randomUUID()]
    expect((await abandonedWork(database(), others[0]!)).deliveries).toEqual([])
    await pass(31)
    for (const other of others) await noteWorker(database(), other)
    const found = await Promise.all(others.map(other => abandonedWork(database(), other)))
    expect(found.flatMap(work => work.deliveries)).toEqual([deliveryId])
    await endDelivery(database(), await DeliveryRow.findByPk(deliveryId, { rejectOnEmpty: true }), 'done')
  })

  test('is a delivery or a reading without a job, once there was time to make it', async () => {
    const deliveryId = await delivering('Unsent')
    const id = await production(database(), part('Unsent too', 'Unsent reading.'))
    const { readingId, jobs } = await startReading(database(), takeIndex(database()), id, (await scoreEdition(id)).parts)
    const worker = randomUUID()
    await noteWorker(database(), worker)
    expect(await abandonedWork(database(), worker)).toEqual({ chunks: [], deliveries: [] })
    await pass(31)
    await noteWorker(database(), worker)
    expect(await abandonedWork(database(), worker)).toEqual({ chunks: [{ readingId, chunk: 0 }], deliveries: [deliveryId] })
    await sendDelivery(queue, { deliveryId })
    await sendChunks(queue, jobs)
    expect(await abandonedWork(database(), worker)).toEqual({ chunks: [], deliveries: [] })
    expect(await queueLength(database())).toEqual({ waiting: 2, inHand: 0 })
  })
})

test('a job that a killed worker had in hand does not stay in hand', async () => {
  const work = { readingId: randomUUID(), chunk: 3 }
  await sendChunks(queue, [work, { ...work, chunk: 4 }])
  await queue.fetch(readQueue, { batchSize: 100 })
  const { inHand } = await queueLength(database())
  expect(inHand).toBeGreaterThanOrEqual(2)
  await dropLostJobs(database(), readQueue, [work])
  expect((await queueLength(database())).inHand).toBe(inHand - 1)
})

test('a job that fails every time ends what it was for', async () => {
  const deliveryId = await delivering('Hopeless')
  await queue.createQueue('hopeless')
  await queue.send('hopeless', { deliveryId }, { retryLimit: 1, retryDelay: 0 })
  let attempts = 0
  const jobs = runJobs<{ deliveryId: string }>(database(), queue, 'hopeless', {
    work: () => { attempts += 1; return Promise.reject(new Error('always')) },
    giveUp: (job, problem) => failDelivery({ database: database() } as Workplace, job, problem),
  })
  for (let waited = 0; waited < 100; waited += 1) {
    await new Promise(resolve => setTimeout(resolve, 100))
    if ((await DeliveryRow.findByPk(deliveryId))?.state === 'failed') break
  }
  await jobs.stop()
  expect(attempts).toBe(2)
  expect(await DeliveryRow.findByPk(deliveryId)).toMatchObject({ state: 'failed', problem: { code: 'internal', message: expect.stringContaining('it is job') } })
  expect(await readingStatus(database(), randomUUID())).toBeNull()
})
