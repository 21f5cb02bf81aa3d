import { proposalSchema, type ProposalRequest } from '#shared/schemas'
import { manuscriptBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ProposalRequest>(proposalSchema)

/** The parts of a document by these choices, and one of them to be looked at. */
export default route(async (event, { database, work }) => {
  const manuscriptId = idParam(event)
  const { choices, shown = 0 } = await body(event)
  return answerOf(event, work, 'proposal', { manuscriptId, choices, shown }, await manuscriptBytes(database, manuscriptId))
})
