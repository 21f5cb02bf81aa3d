import { fail } from '#core/problem'
import { castingSchema, type CastingRequest } from '#shared/schemas'
import { changeEdition, loadEdition } from '#store/editions'
import { castingFor } from '#voices/choose'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<CastingRequest>(castingSchema)

export default route(async (event, { database, engines }) => {
  const { roleId, ...choice } = await body(event)
  const id = idParam(event)
  const { edition, roles } = await loadEdition(id)
  if (roleId !== undefined && !roles.some(role => role.id === roleId)) fail('not-found', 'This role is no longer in the cast. Load the page again.')
  const casting = castingFor(await engines.list(), edition.language, choice)
  await changeEdition(database, id, { casting, ...(roleId === undefined ? {} : { roleId }) })
  return casting
})
