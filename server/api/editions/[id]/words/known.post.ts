import { knownWordsSchema, type KnownWordsRequest } from '#shared/schemas'
import { answerOf } from '../../../../utils/answer'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<KnownWordsRequest>(knownWordsSchema)

/** What dictionaries know of the words of a script, and how the narrator's voice says them. */
export default route(async (event, { work }) => {
  const { language, words, names } = await body(event)
  const letters = [...words, ...names].reduce((sum, word) => sum + word.length, 1)
  return answerOf(event, work, 'knownWordsOf', { editionId: idParam(event), language, words, names }, letters)
})
