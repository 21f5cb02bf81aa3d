import { partBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { idParam, route } from '../../../utils/route'

/** The waveform of a part, take by take. */
export default route(async (event, { database, work }) => {
  const partId = idParam(event)
  return answerOf(event, work, 'peaksOf', { partId }, await partBytes(database, partId))
})
