import { editionBytes } from '#store/sizes'
import { answerOf } from '../../../../utils/answer'
import { idParam, route } from '../../../../utils/route'

/** All that the rules, the census and the narrator check of a page look at. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  return answerOf(event, work, 'materialOf', { editionId }, await editionBytes(database, editionId))
})
