import { comparisonSchema, type ComparisonRequest } from '#shared/schemas'
import { editionBytes, manuscriptBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ComparisonRequest>(comparisonSchema)

/** A new version of the manuscript beside the script; nothing is changed. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  const { manuscriptId } = await body(event)
  return answerOf(event, work, 'comparison', { editionId, manuscriptId }, await editionBytes(database, editionId) + await manuscriptBytes(database, manuscriptId))
})
