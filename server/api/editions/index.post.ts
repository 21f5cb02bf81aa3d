import { propose } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import { hash } from '#core/score/request'
import { presetStyle } from '#core/style/house-style'
import { presetFor } from '#core/style/presets'
import { productionSchema, type ProductionRequest } from '#shared/schemas'
import { createProduction } from '#store/editions'
import { castingFor } from '#voices/choose'
import { findReadManuscript, withDefaults } from '../../utils/proposal'
import { bodyOf, route } from '../../utils/route'

const body = bodyOf<ProductionRequest>(productionSchema)

/** Accepts a proposal: makes a production of a manuscript. */
export default route(async (event, { database, engine }) => {
  const asked = await body(event)
  const { manuscriptId, title, author, language, choices: sent = {}, houseStyle } = asked
  const { manuscript } = await findReadManuscript(manuscriptId)
  const casting = castingFor(await engine.list(), language, {})
  const choices = withDefaults(manuscript, sent)
  const { parts } = propose(manuscript, choices)
  if (parts.length === 0) fail('nothing-to-read', 'By these choices nothing is left to be read. Change them.')
  const editionId = await createProduction(database, { manuscriptId, title: title.trim(), author: author?.trim() || null, language, casting, choices, parts, style: presetStyle(houseStyle ?? presetFor(manuscript)), request: hash(asked) })
  return { editionId }
})
