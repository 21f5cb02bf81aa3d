import { manuscriptView, findManuscript } from '../../../utils/manuscripts'
import { progressOf } from '../../../utils/intakes'
import { idParam, route } from '../../../utils/route'

/** A document on its way in: how far it is, and what was found. */
export default route(async (event, shop) => {
  const row = await findManuscript(idParam(event))
  return manuscriptView(row, await progressOf(row, shop), shop)
})
