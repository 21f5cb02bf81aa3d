import { Readable } from 'node:stream'
import { getRequestHeader, setResponseHeaders, setResponseStatus } from 'h3'
import { wavBytes, wavSize } from '#core/audio/wav'
import { ProblemError } from '#core/problem'
import { partBytes } from '#store/sizes'
import { byteRange } from '../../../utils/byte-range'
import { idParam, route } from '../../../utils/route'
import { sendBytes } from '../../../utils/send-bytes'
import { mendingLoader } from '../../../utils/speak-now'

/** A part as WAV, as it goes into a delivery, made on demand; any byte range of it. */
export default route(async (event, { database, library, engines, work }) => {
  const partId = idParam(event)
  const bytes = await partBytes(database, partId)
  const { track, sounds } = await work.result('layPart', { partId }, bytes)
  const size = wavSize(track)
  const range = byteRange(getRequestHeader(event, 'range'), size)
  setResponseHeaders(event, { 'content-type': 'audio/wav', 'accept-ranges': 'bytes', 'cache-control': 'private, no-cache' })
  if (range === 'unsatisfiable') {
    setResponseStatus(event, 416)
    setResponseHeaders(event, { 'content-range': `bytes */${size}` })
    return ''
  }
  const { from, to } = range ?? { from: 0, to: size }
  if (range !== null) {
    setResponseStatus(event, 206)
    setResponseHeaders(event, { 'content-range': `bytes ${from}-${to - 1}/${size}` })
  }
  setResponseHeaders(event, { 'content-length': to - from })
  const load = mendingLoader(library, engines, new Map(sounds), track.sampleRate, async take => {
    const found = await work.result('utteranceOf', { partId, key: take }, bytes).catch((error: unknown) => {
      // Its name is that of no utterance: nobody here makes it.
      if (error instanceof ProblemError) return null
      throw error
    })
    return found === null ? null : { ...found.utterance, purpose: { editionId: found.editionId, partId } }
  })
  return sendBytes(event, Readable.from(wavBytes(track, load, from, to), { objectMode: false, highWaterMark: 1 }))
})
