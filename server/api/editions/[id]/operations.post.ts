import { setResponseStatus } from 'h3'
import type { ConflictBody, OperationsAnswer } from '#shared/api'
import { operationsSchema, type OperationsRequest } from '#shared/operations'
import { applyOperations } from '#store/operations'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<OperationsRequest>(operationsSchema)

/** One save: all its operations, or 409 with what is there now. */
export default route(async (event, { database }): Promise<OperationsAnswer | ConflictBody> => {
  const { window, operations } = await body(event)
  const result = await applyOperations(database, idParam(event), window, operations)
  if ('revisions' in result) return result
  setResponseStatus(event, 409)
  return {
    problem: { code: 'edit-conflict', message: 'This was changed in another window in the meantime. Nothing was overwritten.' },
    conflicts: result.conflicts,
  }
})
