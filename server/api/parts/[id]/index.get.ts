import { partBytes } from '#store/sizes'
import { answerOf } from '../../../utils/answer'
import { idParam, route } from '../../../utils/route'

/** A part with its passages and the utterances they are spoken in. */
export default route(async (event, { database, work }) => {
  const partId = idParam(event)
  return answerOf(event, work, 'pageOf', { partId }, await partBytes(database, partId))
})
