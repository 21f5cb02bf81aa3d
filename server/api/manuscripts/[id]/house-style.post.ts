import { intakeStyleSchema, type IntakeStyleRequest } from '#shared/schemas'
import { manuscriptBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<IntakeStyleRequest>(intakeStyleSchema)

/** How often each rule of a house style acts on a document, before it is accepted. */
export default route(async (event, { database, work }) => {
  const manuscriptId = idParam(event)
  return work.result('styleCounts', { manuscriptId, ...await body(event) }, await manuscriptBytes(database, manuscriptId))
})
