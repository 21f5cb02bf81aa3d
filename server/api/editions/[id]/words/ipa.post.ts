import { ipaSchema, type IpaRequest } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { readInIpa } from '#voices/espeak/phonemes'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<IpaRequest>(ipaSchema)

/** How the narrator's voice reads each of some short texts by itself. */
export default route(async (event): Promise<{ readonly ipa: readonly string[] }> => {
  const { texts } = await body(event)
  const { casting } = await loadEdition(idParam(event))
  return { ipa: await readInIpa(casting.voice, texts.map(text => text.replace(/\s+/gu, ' '))) }
})
