import { setResponseStatus } from 'h3'
import type { ConflictBody, OperationsAnswer } from '#shared/api'
import { operationsSchema, type OperationsRequest } from '#shared/operations'
import { applyOperations } from '#store/operations'
import { bodyOf, idParam, route } from '../../../utils/route'
import { refuseUnsayableWords } from '../../../utils/sayable'

const body = bodyOf<OperationsRequest>(operationsSchema)

/** One save: all its operations, or 409 with what is there now. */
export default route(async (event, { database, engine }): Promise<OperationsAnswer | ConflictBody> => {
  const { window, operations } = await body(event)
  const id = idParam(event)
  await refuseUnsayableWords(engine, id, operations)
  const result = await applyOperations(database, id, window, operations)
  if ('revisions' in result) return result
  setResponseStatus(event, 409)
  return {
    problem: { code: 'edit-conflict', message: 'This was changed in another window in the meantime. Nothing was overwritten.' },
    conflicts: result.conflicts,
  }
})
