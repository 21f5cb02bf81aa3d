import { setResponseHeaders } from 'h3'
import { fail } from '#core/problem'
import { loadEdition } from '#store/editions'
import { coverFile } from '#store/folders'
import { workOf } from '#store/run-sheet'
import { idParam, route } from '../../../../utils/route'
import { sendBytes } from '../../../../utils/send-bytes'

/** The picture on the cover. */
export default route(async (event, { storage }) => {
  const { cover } = workOf(await loadEdition(idParam(event)))
  const bytes = cover === null ? null : await storage.stream(coverFile(cover.sha256))
  if (cover === null || bytes === null) fail('not-found', 'There is no cover. Bring one in on the Delivery page.')
  setResponseHeaders(event, { 'content-type': cover.mediaType, 'content-length': cover.bytes, 'cache-control': 'no-cache' })
  return sendBytes(event, bytes)
})
