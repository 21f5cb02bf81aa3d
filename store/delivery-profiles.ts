import { v7 as uuidv7 } from 'uuid'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profileNames, profiles } from '#core/delivery/profiles'
import { hash } from '#core/hash'
import { fail } from '#core/problem'
import type { OwnProfile } from '#shared/delivery'
import type { Database } from './database'
import { noProfile, touch } from './editions'
import { postEvent } from './events'
import { DeliveryProfileRow, EditionRow, ProductionRow } from './models'

/** The profiles that were made here, by name. */
export async function ownProfiles(): Promise<OwnProfile[]> {
  return (await DeliveryProfileRow.findAll()).map(({ id, profile }) => ({ id, profile })).sort((a, b) => a.profile.name.localeCompare(b.profile.name, 'en'))
}

/** Throws a problem when there is none. */
export async function ownProfile(id: string): Promise<DeliveryProfile> {
  return (await DeliveryProfileRow.findByPk(id) ?? noProfile()).profile
}

/** Adds a profile; one whose name is taken has a number behind it. */
export async function addProfile(profile: DeliveryProfile): Promise<OwnProfile> {
  const names = new Set((await ownProfiles()).map(own => own.profile.name))
  let { name } = profile
  for (let number = 2; names.has(name); number += 1) name = `${profile.name} ${number}`
  const row = await DeliveryProfileRow.create({ id: uuidv7(), profile: { ...profile, name } })
  return { id: row.id, profile: row.profile }
}

/** A profile that comes with the program, by its name, or one that was made here, by its id. Throws a problem when there is none. */
export async function profileBy(nameOrId: string): Promise<DeliveryProfile> {
  const name = profileNames.find(each => each === nameOrId)
  return name === undefined ? ownProfile(nameOrId) : profiles[name]
}

/** Changes a profile, for all editions that use it. Finished deliveries stay as they are. Throws a problem when there is none. */
export async function changeProfile(database: Database, id: string, profile: DeliveryProfile): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    const row = await DeliveryProfileRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE }) ?? noProfile()
    const isAnnouncedOtherwise = hash(row.profile.announcements) !== hash(profile.announcements)
    await row.update({ profile }, { transaction })
    for (const edition of await EditionRow.findAll({ where: { profileId: id }, transaction })) {
      // What is announced is spoken, so that the score is another one.
      if (isAnnouncedOtherwise) await touch(database, edition, transaction)
      await postEvent(database, edition.id, { kind: 'delivery' }, transaction)
    }
  })
}

/** Productions that a problem names. */
const named = 3

/** Removes a profile. Throws a problem when there is none, or an edition uses it. */
export async function removeProfile(database: Database, id: string): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    const row = await DeliveryProfileRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE }) ?? noProfile()
    const editions = await EditionRow.findAll({ where: { profileId: id }, attributes: ['productionId'], paranoid: false, transaction })
    if (editions.length > 0) {
      const productions = await ProductionRow.findAll({ where: { id: editions.map(edition => edition.productionId) }, limit: named, transaction })
      fail('profile-in-use', `“${row.profile.name}” is used by ${productions.map(production => `“${production.title}”`).join(', ')}${editions.length > productions.length ? ' and others' : ''}. Choose another profile there first. A production that was removed is put back for that, or removed for good.`)
    }
    await row.destroy({ transaction })
  })
}
