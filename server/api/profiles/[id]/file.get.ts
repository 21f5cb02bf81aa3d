import { getRouterParam, setResponseHeaders } from 'h3'
import { fileOfProfile } from '#core/delivery/profile-file'
import { profileNames, profiles } from '#core/delivery/profiles'
import { fileSafe } from '#core/runsheet/file-name'
import { ownProfile } from '#store/delivery-profiles'
import { idParam, route } from '../../../utils/route'

/** A profile as a file: one that comes with the program by its name, one that was made here by its id. */
export default route(async event => {
  const name = profileNames.find(each => each === getRouterParam(event, 'id'))
  const profile = name === undefined ? await ownProfile(idParam(event)) : profiles[name]
  setResponseHeaders(event, { 'content-type': 'application/json; charset=utf-8', 'content-disposition': `attachment; filename="${fileSafe(profile.name)}-profile.json"` })
  return `${JSON.stringify(fileOfProfile(profile), null, 2)}\n`
})
