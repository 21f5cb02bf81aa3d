import { v7 as uuidv7 } from 'uuid'
import { samplesToMs } from '#core/audio/pcm'
import { fail } from '#core/problem'
import type { Sound } from '#core/score/sounds'
import type { SoundView } from '#shared/api'
import type { Database } from './database'
import { lockEdition, touch } from './editions'
import { AssetRow } from './models'

/** Sounds that are listed. */
const mostSounds = 1_000

/** The sounds of a production in the order of their names, and at how many places its script asks for each. */
export async function soundViews(productionId: string, uses: ReadonlyMap<string, number>): Promise<SoundView[]> {
  const rows = await AssetRow.findAll({ where: { productionId, kind: 'sound' }, order: [['name', 'ASC']], limit: mostSounds })
  return rows.map(({ id, name, sampleCount, sampleRate }) => ({ id, name, durationMs: samplesToMs(sampleCount, sampleRate), uses: uses.get(name) ?? 0 }))
}

/** Puts a sound whose take is kept in the library of an edition's production; one of the same name is replaced. */
export async function addSound(database: Database, editionId: string, name: string, { key: takeKey, sampleRate, sampleCount }: Sound): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    const edition = await lockEdition(editionId, transaction)
    const { productionId } = edition
    const fields = { takeKey, sampleRate, sampleCount }
    const known = await AssetRow.findOne({ where: { productionId, kind: 'sound', name }, transaction })
    if (known === null) await AssetRow.create({ id: uuidv7(), productionId, kind: 'sound', name, ...fields }, { transaction })
    else await known.update(fields, { transaction })
    await touch(database, edition, transaction)
  })
}

/** A sound of an edition's production. Throws a problem when there is none. */
export async function findSound(productionId: string, id: string): Promise<AssetRow> {
  return await AssetRow.findOne({ where: { id, productionId, kind: 'sound' } }) ?? fail('not-found', 'This sound is no longer in the library. Load the page again.')
}

/** Takes a sound out of the library. Throws a problem while the script asks for it. */
export async function removeSound(database: Database, editionId: string, id: string): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    const edition = await lockEdition(editionId, transaction)
    const sound = await findSound(edition.productionId, id)
    const [{ uses }] = await database.rows<{ uses: number }>(
      'SELECT count(*)::integer AS uses FROM passages s JOIN parts p ON p.id = s.part_id, jsonb_array_elements(s.content->\'directions\') d '
      + 'WHERE p.edition_id = $1 AND d->>\'kind\' = \'sound\' AND d->>\'sound\' = $2', [editionId, sound.name], transaction) as [{ uses: number }]
    if (uses > 0) fail('sound-in-use', `The script plays “${sound.name}” at ${uses} ${uses === 1 ? 'place' : 'places'}. Take it off there first; find and replace lists them.`)
    await sound.destroy({ transaction })
    await touch(database, edition, transaction)
  })
}
