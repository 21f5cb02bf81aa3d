import type { WordsMaterial } from '#shared/api'
import { loadEdition } from '#store/editions'
import { loadScriptOf } from '#store/score'
import { idParam, route } from '../../../../utils/route'

/** All that the rules, the census and the narrator check of a page look at. */
export default route(async (event): Promise<WordsMaterial> => {
  const id = idParam(event)
  const [{ edition, style, wordbooks, decisions }, script] = await Promise.all([loadEdition(id), loadScriptOf(id)])
  return { language: edition.language, parts: script.parts, rules: style.rules, wordbooks, decisions }
})
