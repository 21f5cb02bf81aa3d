import { proposalQuerySchema, type ProposalQuery } from '#shared/schemas'
import { findManuscript, proposalFor } from '../../../utils/proposal'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<ProposalQuery>(proposalQuerySchema)

/** The parts of a manuscript, split at the heading level asked for. */
export default route(async event => {
  const { level } = query(event)
  return proposalFor(await findManuscript(idParam(event)), level === undefined ? undefined : Number(level))
})
