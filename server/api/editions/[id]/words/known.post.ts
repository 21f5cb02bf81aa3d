import type { KnownWords } from '#core/words/known-words'
import { knownWordsSchema, type KnownWordsRequest } from '#shared/schemas'
import { narratorOf } from '#store/editions'
import { knownWords } from '#voices/known-words'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<KnownWordsRequest>(knownWordsSchema)

/** What dictionaries know of the words of a script, and how the narrator's voice says them. */
export default route(async (event, { engines }): Promise<KnownWords> => {
  const { language, words, names } = await body(event)
  return knownWords(engines, await narratorOf(idParam(event)), language, { words, names })
})
