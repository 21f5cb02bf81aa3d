import { fileSplitRequestSchema, type FileSplitRequest } from '#shared/schemas'
import { setSplit } from '#store/run-sheet'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<FileSplitRequest>(fileSplitRequestSchema)

/** Divides the script into files by another rule. */
export default route(async (event, { database }) => {
  const { split } = await body(event)
  await setSplit(database, idParam(event), split)
  return { ok: true }
})
