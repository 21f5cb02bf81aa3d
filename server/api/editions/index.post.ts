import { proposeParts } from '#core/manuscript/structure'
import { productionSchema, type ProductionRequest } from '#shared/schemas'
import { createProduction } from '#store/editions'
import { castingFor } from '#voices/choose'
import { findManuscript } from '../../utils/proposal'
import { bodyOf, route } from '../../utils/route'

const body = bodyOf<ProductionRequest>(productionSchema)

/** Accepts a proposal: makes a production of a manuscript. */
export default route(async (event, { database, engine }) => {
  const { manuscriptId, title, author, language, level } = await body(event)
  const manuscript = await findManuscript(manuscriptId)
  const casting = castingFor(await engine.list(), language, {})
  const editionId = await createProduction(database, {
    manuscriptId, title: title.trim(), author: author?.trim() || null, language, casting,
    parts: proposeParts(manuscript.content, { by: 'heading', level }),
  })
  return { editionId }
})
