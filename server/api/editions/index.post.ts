import { productionSchema, type ProductionRequest } from '#shared/schemas'
import { manuscriptBytes } from '#store/sizes'
import { castingFor } from '#voices/choose'
import { bodyOf, route } from '../../utils/route'

const body = bodyOf<ProductionRequest>(productionSchema)

/** Accepts a proposal: makes a production of a document. */
export default route(async (event, { database, engines, work }) => {
  const asked = await body(event)
  const casting = castingFor(await engines.list(), asked.language, {})
  return work.result('produce', { asked, casting }, await manuscriptBytes(database, asked.manuscriptId))
})
