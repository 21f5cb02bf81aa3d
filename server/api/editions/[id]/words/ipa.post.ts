import { ipaSchema, type IpaRequest } from '#shared/schemas'
import { narratorOf } from '#store/editions'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<IpaRequest>(ipaSchema)

/** How the narrator's voice reads each of some short texts by itself; nothing where its engine does not tell. */
export default route(async (event, { engine }): Promise<{ readonly ipa: readonly string[] }> => {
  const { texts } = await body(event)
  const { voice } = await narratorOf(idParam(event))
  return { ipa: await engine.inIpa?.(voice, texts.map(text => text.replace(/\s+/gu, ' '))) ?? [] }
})
