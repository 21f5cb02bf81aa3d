import { progressOf } from '../../../utils/intakes'
import { findManuscript, manuscriptView } from '../../../utils/proposal'
import { idParam, route } from '../../../utils/route'

/** A document on its way in: how far it is, and what was found. */
export default route(async (event, shop) => {
  const row = await findManuscript(idParam(event))
  return manuscriptView(row, progressOf(row, shop))
})
