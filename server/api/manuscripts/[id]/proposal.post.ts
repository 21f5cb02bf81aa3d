import { proposalSchema, type ProposalRequest } from '#shared/schemas'
import { findReadManuscript, proposalView, withDefaults } from '../../../utils/proposal'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ProposalRequest>(proposalSchema)

/** The parts of a document by these choices, and one of them to be looked at. */
export default route(async event => {
  const id = idParam(event)
  const { choices, shown = 0 } = await body(event)
  const { manuscript } = await findReadManuscript(id)
  return proposalView(manuscript, withDefaults(manuscript, choices), shown)
})
