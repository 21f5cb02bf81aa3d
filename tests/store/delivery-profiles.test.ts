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
