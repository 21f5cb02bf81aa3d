import { houseStylePatchSchema, patchHouseStyle, type HouseStylePatch } from '#core/style/house-style'
import { changeEdition, loadEdition } from '#store/editions'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<HouseStylePatch>(houseStylePatchSchema)

/** Changes the values that are given. */
export default route(async (event, { database }) => {
  const patch = await body(event)
  const id = idParam(event)
  const houseStyle = patchHouseStyle((await loadEdition(id)).style, patch)
  await changeEdition(database, id, { houseStyle })
  return houseStyle
})
