import { readerOptionsSchema, type ReaderOptions } from '#shared/schemas'
import { progressOf, stopIntake } from '../../../utils/intakes'
import { findManuscript, manuscriptView } from '../../../utils/manuscripts'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ReaderOptions>(readerOptionsSchema)

/** Reads a document again, with another encoding, or other columns of its table. */
export default route(async (event, shop) => {
  const id = idParam(event)
  const options = await body(event)
  const row = await findManuscript(id)
  await stopIntake(row, shop.database)
  await row.update({ state: 'reading', progress: 0, problem: null, content: null, options })
  return manuscriptView(row, await progressOf(row, shop), shop)
})
