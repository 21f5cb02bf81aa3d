import { fail } from '#core/problem'
import type { ManuscriptView } from '#shared/api'
import { ManuscriptRow } from '#store/models'
import { manuscriptBytes } from '#store/sizes'
import type { IntakeProgress } from './intakes'
import type { Workshop } from './workshop'

/** A document without what was found in it, which can be large. Throws a problem when there is none. */
export async function findManuscript(id: string): Promise<ManuscriptRow> {
  return await ManuscriptRow.findByPk(id, { attributes: { exclude: ['content'] } }) ?? fail('not-found', 'This document is no longer here. Bring it in again.')
}

export async function manuscriptView({ id, fileName, state, problem }: ManuscriptRow, { progress, ahead }: IntakeProgress, { database, work }: Workshop): Promise<ManuscriptView> {
  const found = state === 'ready' ? await work.result('found', { manuscriptId: id }, await manuscriptBytes(database, id)) : null
  return { id, fileName, state, progress, ahead, problem, found }
}
