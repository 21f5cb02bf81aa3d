import { setResponseStatus } from 'h3'
import { refuseUnsayableWords } from '#services/sayable'
import type { ConflictBody, OperationsAnswer } from '#shared/api'
import { operationsSchema, type Operation, type OperationsRequest } from '#shared/operations'
import { editionBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

/** Operations that read and may change a whole script. */
const wholeScript: ReadonlySet<Operation['op']> = new Set<Operation['op']>(['replace', 'dialogue', 'divide'])

const body = bodyOf<OperationsRequest>(operationsSchema)

/** One save: all its operations, or 409 with what is there now. */
export default route(async (event, { database, engines, work }): Promise<OperationsAnswer | ConflictBody> => {
  const { window, operations } = await body(event)
  const id = idParam(event)
  await refuseUnsayableWords(engines, id, operations)
  const bytes = operations.some(({ op }) => wholeScript.has(op)) ? await editionBytes(database, id) : 0
  const result = await work.result('operate', { editionId: id, window, operations }, bytes)
  if ('revisions' in result) return result
  setResponseStatus(event, 409)
  return {
    problem: { code: 'edit-conflict', message: 'This was changed in another window in the meantime. Nothing was overwritten.' },
    conflicts: result.conflicts,
  }
})
