import { castingSchema, type CastingRequest } from '#shared/schemas'
import { changeEdition, loadEdition } from '#store/editions'
import { castingFor } from '#voices/choose'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<CastingRequest>(castingSchema)

export default route(async (event, { database, engine }) => {
  const choice = await body(event)
  const id = idParam(event)
  const { edition } = await loadEdition(id)
  const casting = castingFor(await engine.list(), edition.language, choice)
  await changeEdition(database, id, { casting })
  return casting
})
