import { ipaSchema, type IpaRequest } from '#shared/schemas'
import { narratorOf } from '#store/editions'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<IpaRequest>(ipaSchema)

/** How the narrator's voice reads each of some short texts by itself; nothing where its engine does not tell. */
export default route(async (event, { engines }): Promise<{ readonly ipa: readonly string[] }> => {
  const { texts } = await body(event)
  const casting = await narratorOf(idParam(event))
  return { ipa: await engines.inIpa(casting, texts.map(text => text.replace(/\s+/gu, ' '))) }
})
