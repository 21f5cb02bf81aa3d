import { setTimeout as sleep } from 'node:timers/promises'
import { dropOldEvents, eventsAfter, lastEventId, listenForEvents, postEvent } from '../../store/events'
import { ownDatabase } from '../support/database'

const { database, url } = ownDatabase()

test('events of a topic come in order, after the one seen last', async () => {
  await postEvent(database(), 'a', { kind: 'script' })
  const seen = await lastEventId(database())
  await postEvent(database(), 'a', { kind: 'reading', readingId: '1' })
  await postEvent(database(), 'b', { kind: 'script' })
  await postEvent(database(), 'a', { kind: 'reading', readingId: '2' })
  expect((await eventsAfter(database(), 'a', seen)).map(event => event.payload)).toEqual([{ kind: 'reading', readingId: '1' }, { kind: 'reading', readingId: '2' }])
})

test('an event in a transaction that fails is none', async () => {
  const before = await lastEventId(database())
  await expect(database().sequelize.transaction(async transaction => {
    await postEvent(database(), 'a', { kind: 'script' }, transaction)
    throw new Error('no')
  })).rejects.toThrow('no')
  expect(await eventsAfter(database(), 'a', before)).toEqual([])
})

test('a listener is woken, also after its connection was cut', async () => {
  let woken = 0
  const listener = listenForEvents(url(), () => { woken += 1 })
  await wakes(() => woken)
  await database().rows('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query LIKE \'LISTEN%\' AND pid <> pg_backend_pid()')
  await sleep(100)
  await wakes(() => woken)
  await listener.close()
})

/** Posts events until the listener hears one posted after this moment. */
async function wakes(count: () => number): Promise<void> {
  for (let attempt = 0; attempt < 100; attempt += 1) {
    const before = count()
    await postEvent(database(), 'a', { kind: 'script' })
    await sleep(150)
    if (count() > before) return
  }
  throw new Error('The listener was not woken.')
}

test('events are kept for an hour', async () => {
  await postEvent(database(), 'old', { kind: 'script' })
  await database().rows('UPDATE events SET at = now() - interval \'61 minutes\' WHERE topic = \'old\' RETURNING id')
  await dropOldEvents(database())
  expect(await eventsAfter(database(), 'old', 0)).toEqual([])
})
