import { randomUUID } from 'node:crypto'
import { v7 as uuidv7 } from 'uuid'
import { askToStopIntake, claimIntake, endIntake, intakeTurn, keepIntake, waitingIntakes } from '../../store/manuscripts'
import { ManuscriptRow } from '../../store/models'
import { ownDatabase } from '../support/database'

const { database } = ownDatabase()
const [one, two] = [randomUUID(), randomUUID()]
const stopped = { code: 'intake-stopped', message: 'It was stopped.' }

async function arrived(): Promise<string> {
  const row = await ManuscriptRow.create({ id: uuidv7(), fileName: 'a.txt', sha256: 'a'.repeat(64), content: null, state: 'reading', progress: 0 })
  return row.id
}

const stateOf = async (id: string) => (await ManuscriptRow.findByPk(id))!.state

/** As if a server had said nothing for so long. */
const pass = (seconds: number) => database().rows('UPDATE manuscripts SET reader_until = reader_until - $1 * interval \'1 second\' RETURNING id', [seconds])

test('of many servers one reads a document', async () => {
  const id = await arrived()
  const claims = await Promise.all(Array.from({ length: 20 }, () => claimIntake(database(), id, randomUUID())))
  expect(claims.filter(Boolean)).toHaveLength(1)
})

test('what its reader has found is noted once; one that has lost it notes nothing', async () => {
  const id = await arrived()
  expect(await waitingIntakes(database())).toContain(id)
  expect(await claimIntake(database(), id, one)).toBe(true)
  expect(await keepIntake(database(), id, one, 0.4)).toBe('go')
  expect(await intakeTurn(database(), id)).toMatchObject({ isHeld: true, progress: 0.4 })
  expect(await waitingIntakes(database())).not.toContain(id)
  // It was away for longer than its lease, and another has taken it up.
  await pass(6)
  expect(await waitingIntakes(database())).toContain(id)
  expect(await claimIntake(database(), id, two)).toBe(true)
  expect(await keepIntake(database(), id, one, 0.5)).toBe('lost')
  await endIntake(database(), id, one, { content: '{"by": "one"}', state: 'ready', problem: null })
  expect(await stateOf(id)).toBe('reading')
  await endIntake(database(), id, two, { content: '{"by": "two"}', state: 'ready', problem: null })
  expect(await ManuscriptRow.findByPk(id)).toMatchObject({ state: 'ready', content: { by: 'two' }, progress: 1 })
  expect(await claimIntake(database(), id, one)).toBe(false)
})

test('whoever reads it is asked to stop; where nobody does, it is stopped at once', async () => {
  const id = await arrived()
  await claimIntake(database(), id, one)
  expect(await askToStopIntake(database(), id, stopped)).toBe(true)
  expect([await keepIntake(database(), id, one, 0.1), await stateOf(id)]).toEqual(['stop', 'reading'])
  await endIntake(database(), id, one, { content: null, state: 'stopped', problem: stopped })
  expect(await askToStopIntake(database(), id, stopped)).toBe(false)
  const waiting = await arrived()
  expect(await askToStopIntake(database(), waiting, stopped)).toBe(false)
  expect(await stateOf(waiting)).toBe('stopped')
})

test('the turn of a document is behind those that came before it', async () => {
  await database().rows('DELETE FROM manuscripts RETURNING id')
  const ids = [await arrived(), await arrived(), await arrived()]
  expect(await Promise.all(ids.map(async id => (await intakeTurn(database(), id)).ahead))).toEqual([0, 1, 2])
})
