import { requestUnder } from '#core/score/examined'
import type { Sayable } from '#shared/api'
import { sayableSchema, type SayableRequest } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<SayableRequest>(sayableSchema)

/** Whether the narrator's voice has the sounds of a pronunciation in a language, and why not. */
export default route(async (event, { engine }): Promise<Sayable> => {
  const id = idParam(event)
  const { ph, language } = await body(event)
  const { casting } = await loadEdition(id)
  const [problem = null] = await engine.examine?.([requestUnder({ kind: 'phoneme', ph }, casting, language)]) ?? []
  return { reason: problem?.message ?? null }
})
