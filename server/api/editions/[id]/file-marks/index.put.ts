import { fileMarksSchema, type FileMarksRequest } from '#shared/schemas'
import { setMarks } from '#store/run-sheet'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<FileMarksRequest>(fileMarksSchema)

/** Sets marks where files begin or go on, or takes them away. */
export default route(async (event, { database }) => {
  const { marks } = await body(event)
  await setMarks(database, idParam(event), marks)
  return { ok: true }
})
