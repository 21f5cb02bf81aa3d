import { setResponseHeaders } from 'h3'
import { loadEdition } from '#store/editions'
import { idParam, route } from '../../../../utils/route'

/** The house style as a file. */
export default route(async event => {
  const { style } = await loadEdition(idParam(event))
  setResponseHeaders(event, { 'content-type': 'application/json; charset=utf-8', 'content-disposition': 'attachment; filename="house-style.json"' })
  return `${JSON.stringify(style, null, 2)}\n`
})
