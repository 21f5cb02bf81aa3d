import { versionSchema, type VersionRequest } from '#shared/schemas'
import { takeOverVersion } from '#store/new-version'
import { proposeVersion } from '../../../utils/new-version'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<VersionRequest>(versionSchema)

/** Takes a new version of the manuscript over. */
export default route(async (event, { database }) => {
  const id = idParam(event)
  const { manuscriptId, window, keep } = await body(event)
  const { parts, choices } = await proposeVersion(id, manuscriptId)
  await takeOverVersion(database, id, window, { manuscriptId, parts, choices, keep: new Set(keep) })
  return {}
})
