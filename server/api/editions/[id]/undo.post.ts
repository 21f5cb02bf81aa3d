import { setResponseStatus } from 'h3'
import type { UndoAnswer, UndoConflictBody } from '#shared/api'
import { undoSchema, type UndoRequest } from '#shared/schemas'
import { nextEditBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<UndoRequest>(undoSchema)

/** Undoes or redoes an edit of a window, or 409 with what was changed since. */
export default route(async (event, { database, work }): Promise<UndoAnswer | UndoConflictBody> => {
  const editionId = idParam(event)
  const request = await body(event)
  const result = await work.result('undoEdit', { editionId, request }, await nextEditBytes(database, editionId, request.window))
  if (!('conflicts' in result)) return result
  setResponseStatus(event, 409)
  return { problem: { code: 'undo-conflict', message: 'What this would put back was changed since. Nothing was overwritten.' }, ...result }
})
