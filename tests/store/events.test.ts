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

test('of two transactions that commit in the other order than they began to post, both events are seen', async () => {
  const before = await lastEventId(database())
  const first = await database().sequelize.transaction()
  await postEvent(database(), 'order', { kind: 'reading', readingId: 'first' }, first)
  // Over a connection of its own, and committed at once.
  await postEvent(database(), 'order', { kind: 'reading', readingId: 'second' })
  const [seen] = await eventsAfter(database(), 'order', before)
  expect(seen!.payload).toEqual({ kind: 'reading', readingId: 'second' })
  await first.commit()
  expect((await eventsAfter(database(), 'order', seen!.id)).map(event => event.payload)).toEqual([{ kind: 'reading', readingId: 'first' }])
})

test('many transactions at once, of several events each, miss none', async () => {
  const before = await lastEventId(database())
  const seen: number[] = []
  let done = false
  const watching = (async () => {
    let last = before
    while (!done || (await eventsAfter(database(), 'many', last)).length > 0) {
      for (const { id } of await eventsAfter(database(), 'many', last)) {
        seen.push(id)
        last = id
      }
    }
  })()
  await Promise.all(Array.from({ length: 60 }, (_, index) => database().sequelize.transaction(async transaction => {
    await postEvent(database(), 'many', { kind: 'script' }, transaction)
    await postEvent(database(), 'many', { kind: 'reading', readingId: String(index) }, transaction)
  })))
  done = true
  await watching
  expect(seen).toHaveLength(120)
  expect(new Set(seen).size).toBe(120)
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
