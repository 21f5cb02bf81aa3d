import { editionBytes, wordbookBytes } from '#store/sizes'
import { answerOf } from '../../../../utils/answer'
import { idParam, route } from '../../../../utils/route'

/** The entries of the production's wordbook and the shared one, in the order in which they were written. */
export default route(async (event, { database, work }) => {
  const editionId = idParam(event)
  return answerOf(event, work, 'wordsView', { editionId }, await editionBytes(database, editionId) + await wordbookBytes(database, editionId))
})
