import type { WordsMaterial } from '#shared/api'
import { loadEdition } from '#store/editions'
import { scriptOf } from '#store/score'
import { idParam, route } from '../../../../utils/route'

/** All that the rules, the census and the narrator check of a page look at. */
export default route(async (event): Promise<WordsMaterial> => {
  const loaded = await loadEdition(idParam(event))
  const { style, wordbooks, decisions } = loaded
  const { language, parts } = await scriptOf(loaded)
  return { language, parts, rules: style.rules, wordbooks, decisions }
})
