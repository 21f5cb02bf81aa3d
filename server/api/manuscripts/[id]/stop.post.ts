import { stopIntake } from '../../../utils/intakes'
import { findManuscript, manuscriptView } from '../../../utils/manuscripts'
import { idParam, route } from '../../../utils/route'

/** Stops the reading of a document. */
export default route(async (event, shop) => {
  const id = idParam(event)
  await stopIntake(await findManuscript(id), shop.database)
  const row = await findManuscript(id)
  return manuscriptView(row, { progress: row.progress, ahead: 0 }, shop)
})
