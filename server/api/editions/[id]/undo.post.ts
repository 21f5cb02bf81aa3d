import { setResponseStatus } from 'h3'
import type { UndoAnswer, UndoConflictBody } from '#shared/api'
import { undoSchema, type UndoRequest } from '#shared/schemas'
import { undo } from '#store/edits'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<UndoRequest>(undoSchema)

/** Undoes or redoes an edit of a window, or 409 with what was changed since. */
export default route(async (event, { database }): Promise<UndoAnswer | UndoConflictBody> => {
  const result = await undo(database, idParam(event), await body(event))
  if (!('conflicts' in result)) return result
  setResponseStatus(event, 409)
  return { problem: { code: 'undo-conflict', message: 'What this would put back was changed since. Nothing was overwritten.' }, ...result }
})
