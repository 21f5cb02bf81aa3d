import { namePatternProblem } from '#core/delivery/naming'
import { fail } from '#core/problem'
import { editionSchema, type EditionRequest } from '#shared/schemas'
import { changeEdition } from '#store/editions'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<EditionRequest>(editionSchema)

export default route(async (event, { database }) => {
  const { author, ...change } = await body(event)
  const problem = change.namePattern === undefined || change.namePattern === null ? null : namePatternProblem(change.namePattern)
  if (problem !== null) fail('name-pattern', problem)
  await changeEdition(database, idParam(event), { ...change, ...(author === undefined ? {} : { author: author.trim() || null }) })
  return { ok: true }
})
