import { faultsOfPronunciations } from '#services/sayable'
import type { Sayable } from '#shared/api'
import { sayableSchema, type SayableRequest } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<SayableRequest>(sayableSchema)

/** Whether the narrator's voice has the sounds of a pronunciation in a language, and why not. */
export default route(async (event, { engines }): Promise<Sayable> => {
  const id = idParam(event)
  const pronunciation = await body(event)
  const { casting } = await loadEdition(id)
  const [problem] = await faultsOfPronunciations(engines, casting, [pronunciation])
  return { reason: problem?.message ?? null }
})
