import { Readable } from 'node:stream'
import { getRequestHeader, setResponseHeaders, setResponseStatus } from 'h3'
import { wavBytes, wavSize } from '#core/audio/wav'
import { fail } from '#core/problem'
import { soundNamesIn } from '#core/score/compile'
import { profileOf } from '#store/deliveries'
import { trackOf } from '#store/score'
import { byteRange } from '../../../utils/byte-range'
import { scorePart } from '../../../utils/part'
import { idParam, route } from '../../../utils/route'
import { sendBytes } from '../../../utils/send-bytes'
import { mendingLoader } from '../../../utils/speak-now'

/** A part as WAV, as it goes into a delivery, made on demand; any byte range of it. */
export default route(async (event, { library, engine }) => {
  const { scored, part } = await scorePart(idParam(event))
  const sounds = soundNamesIn(part.score)
  const takes = await library.index.find([...part.score.utterances.map(utterance => utterance.key), ...sounds.keys()])
  const missing = part.score.utterances.filter(utterance => !takes.has(utterance.key)).length
  if (missing > 0) fail('not-read', `${missing} sentences of this part are not read yet. Read them first.`)
  const track = trackOf(part, takes, profileOf(scored))
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
  const load = mendingLoader(library, engine, takes, sounds, part.score.utterances)
  return sendBytes(event, Readable.from(wavBytes(track, load, from, to), { objectMode: false }))
})
