import { randomUUID } from 'node:crypto'
import { profiles } from '#core/delivery/profiles'
import { addProfile, changeProfile, ownProfile, ownProfiles, removeProfile } from '../../store/delivery-profiles'
import { deliveryDesk } from '../../store/deliveries'
import { changeEdition, loadEdition } from '../../store/editions'
import { eventsAfter, lastEventId } from '../../store/events'
import { profileOf } from '../../store/run-sheet'
import { bringUpToDate } from '../../store/summaries'
import { ownDatabase, part, production } from '../support/database'

const { database } = ownDatabase()
const unknown = { problem: { code: 'not-found' } }

test('a profile that was made here is used by productions, and changed for all of them', async () => {
  const { id: profileId, profile } = await addProfile({ ...profiles.podcast, name: 'House podcast', headMs: 450 })
  const [first, second] = [await production(database(), part('One', 'Of one.')), await production(database(), part('Two', 'Of another.'))]
  for (const id of [first, second]) await changeEdition(database(), id, { profile: profileId })
  expect(profileOf(await loadEdition(first))).toMatchObject({ name: 'House podcast', headMs: 450 })
  expect((await deliveryDesk(database(), await bringUpToDate(database(), first), 'encoder')).profile).toBe(profileId)

  const seen = await lastEventId(database())
  await changeProfile(database(), profileId, { ...profile, headMs: 600 })
  expect(profileOf(await loadEdition(second)).headMs).toBe(600)
  for (const id of [first, second]) expect((await eventsAfter(database(), id, seen)).map(({ payload }) => payload)).toEqual([{ kind: 'delivery' }])

  await expect(removeProfile(database(), profileId)).rejects.toMatchObject({ problem: { code: 'profile-in-use', message: expect.stringContaining('“House podcast” is used by “The Year”') as string } })
  for (const id of [first, second]) await changeEdition(database(), id, { profile: 'course' })
  expect(profileOf(await loadEdition(first)).name).toBe('Course clips')
  await removeProfile(database(), profileId)
  await expect(ownProfile(profileId)).rejects.toMatchObject(unknown)
})

test('files are called as the profile says, until a production has names of its own', async () => {
  const { id: profileId } = await addProfile({ ...profiles.course, name: 'House course', namePattern: '{number}-{part}-house', nameRules: { ...profiles.course.nameRules, digits: 4 }, extras: [] })
  const id = await production(database(), part('Alder', 'Of alder.'))
  await changeEdition(database(), id, { profile: profileId })
  const seen = async (): Promise<unknown> => {
    const { rows, areOwnNames, extras } = await deliveryDesk(database(), await bringUpToDate(database(), id), 'encoder')
    return [rows[0]!.name, areOwnNames, extras]
  }
  expect(await seen()).toEqual(['0001-alder-house.mp3', false, []])
  await changeEdition(database(), id, { nameRules: { firstNumber: 7 } })
  expect(await seen()).toEqual(['0007-alder-house.mp3', true, []])
  await changeEdition(database(), id, { namePattern: '{number}-mine' })
  expect(await seen()).toEqual(['0007-mine.mp3', true, []])
  await changeEdition(database(), id, { profile: 'book' })
  expect(await seen()).toEqual(['07-mine.mp3', true, ['playlist', 'cueSheets', 'cover']])
  await changeEdition(database(), id, { namePattern: null, nameRules: null })
  expect(await seen()).toEqual(['01-alder.mp3', false, ['playlist', 'cueSheets', 'cover']])
  await removeProfile(database(), profileId)
})

test('names tell profiles apart; one that is not there cannot be used, changed, or removed', async () => {
  const added = [await addProfile(profiles.web), await addProfile(profiles.web), await addProfile({ ...profiles.web, name: 'Another' })]
  expect(added.map(({ profile }) => profile.name)).toEqual(['Web', 'Web 2', 'Another'])
  expect((await ownProfiles()).map(({ profile }) => profile.name)).toEqual(['Another', 'Web', 'Web 2'])
  const id = await production(database(), part('One', 'Of one.'))
  await expect(changeEdition(database(), id, { profile: randomUUID() })).rejects.toMatchObject(unknown)
  await expect(changeProfile(database(), randomUUID(), profiles.web)).rejects.toMatchObject(unknown)
  await expect(removeProfile(database(), randomUUID())).rejects.toMatchObject(unknown)
  expect(profileOf(await loadEdition(id)).name).toBe('Book, retail')
})
