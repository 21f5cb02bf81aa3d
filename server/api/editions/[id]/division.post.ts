import { divisionSchema, type DivisionRequest } from '#shared/schemas'
import { editionBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<DivisionRequest>(divisionSchema)

/** What a script would be divided into; nothing is changed. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  const { split } = await body(event)
  return answerOf(event, work, 'divisionOf', { editionId, split }, await editionBytes(database, editionId))
})
