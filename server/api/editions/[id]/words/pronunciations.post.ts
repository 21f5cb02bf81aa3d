import { pronunciationsSchema, type PronunciationsRequest } from '#shared/schemas'
import { answerOf } from '../../../../utils/answer'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<PronunciationsRequest>(pronunciationsSchema)

/** How a word is said now, and how it could be said. */
export default route(async (event, { work }) => {
  const asked = await body(event)
  return answerOf(event, work, 'pronunciationsOf', { editionId: idParam(event), ...asked }, asked.word.length)
})
