import { randomUUID } from 'node:crypto'
import { setTimeout as sleep } from 'node:timers/promises'
import { takeIndex } from '../../store/take-index'
import type { TakeRecord } from '../../takes/take'
import { ownDatabase } from '../support/database'
import { takeRecord } from '../support/takes'

const { database } = ownDatabase()
const record = (key: string, pack = 'p'): TakeRecord => takeRecord(key, { sampleCount: 10, wordMarks: [0, 1, 5, 7], pack, offset: 3_000_000_000, checksum: 4_294_967_295 })

describe('the take index in the database', () => {
  test('gives back what was added', async () => {
    const index = takeIndex(database())
    await index.add([record('a'), record('b')])
    expect(await index.find(['a', 'c'])).toEqual(new Map([['a', record('a')]]))
  })

  test('the first take of a key stays', async () => {
    const index = takeIndex(database())
    await index.add([record('first', 'one')])
    await index.add([record('first', 'two')])
    expect((await index.find(['first'])).get('first')!.pack).toBe('one')
  })

  test('a take that is lost is forgotten, but not one that was made again meanwhile', async () => {
    const index = takeIndex(database())
    await index.add([record('lost', 'one')])
    await index.forget([record('lost', 'other')])
    expect((await index.find(['lost'])).size).toBe(1)
    await index.forget([record('lost', 'one')])
    expect((await index.find(['lost'])).size).toBe(0)
  })

  test('two holders never hold the same key; a released one is free, and one that has a take is nobody’s to make', async () => {
    const [one, two] = [takeIndex(database()), takeIndex(database())]
    const keys = Array.from({ length: 200 }, (_, index) => `k${index}`)
    const [first, second] = await Promise.all([one.claim(keys), two.claim(keys)])
    expect(first.length + second.length).toBe(200)
    expect(new Set([...first, ...second]).size).toBe(200)
    await Promise.all([one.release(first), two.release(second)])
    expect(await two.claim(['k0'])).toEqual(['k0'])
    await two.add([record('k0')])
    expect(await one.claim(['k0', 'k1'])).toEqual(['k1'])
    await two.forget([record('k0')])
    expect(await two.claim(['k0'])).toEqual(['k0'])
  })

  test('a holder may claim again what it holds; a lease that ran out is anybody’s', async () => {
    const [one, two] = [takeIndex(database()), takeIndex(database())]
    expect(await one.claim(['lease'])).toEqual(['lease'])
    expect(await one.claim(['lease'])).toEqual(['lease'])
    expect(await two.claim(['lease'])).toEqual([])
    await database().rows('UPDATE claims SET expires_at = now() - interval \'1 second\' WHERE key = \'lease\' RETURNING key')
    expect(await two.claim(['lease'])).toEqual(['lease'])
    // The clock is put back: what was claimed before would be held for as long.
    await database().rows('UPDATE claims SET expires_at = now() + interval \'1 day\' WHERE key = \'lease\' RETURNING key')
    expect(await one.claim(['lease'])).toEqual(['lease'])
  })

  test('a claim that has waited for the renewal of another finds it held', async () => {
    const leaseMs = 1000
    const [one, two] = [takeIndex(database(), randomUUID(), leaseMs), takeIndex(database(), randomUUID(), leaseMs)]
    expect(await one.claim(['renewed'])).toEqual(['renewed'])
    let waiting: Promise<string[]> | undefined
    await database().sequelize.transaction(async transaction => {
      await database().rows('SELECT key FROM claims WHERE key = \'renewed\' FOR UPDATE', [], transaction)
      waiting = two.claim(['renewed'])
      await sleep(200)
      await database().rows('UPDATE claims SET expires_at = clock_timestamp() + interval \'1 second\' WHERE key = \'renewed\' RETURNING key', [], transaction)
    })
    expect(await waiting).toEqual([])
  })
})
