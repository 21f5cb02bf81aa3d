import { findSchema, type FindRequest } from '#shared/schemas'
import { editionBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<FindRequest>(findSchema)

/** Looks through a whole script; nothing is changed. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  const { query } = await body(event)
  return answerOf(event, work, 'findIn', { editionId, query }, await editionBytes(database, editionId))
})
