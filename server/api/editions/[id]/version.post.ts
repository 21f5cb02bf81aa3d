import { versionSchema, type VersionRequest } from '#shared/schemas'
import { editionBytes, manuscriptBytes } from '#store/sizes'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<VersionRequest>(versionSchema)

/** Takes a new version of the manuscript over. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  const request = await body(event)
  return work.result('takeOver', { editionId, ...request }, await editionBytes(database, editionId) + await manuscriptBytes(database, request.manuscriptId))
})
