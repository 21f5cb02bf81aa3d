import { fail } from '#core/problem'
import { isSpeakable } from '#core/manuscript/manuscript'
import { sampleSchema, type SampleRequest } from '#shared/schemas'
import { requestForText } from '#voices/cast-score'
import { castingFor } from '#voices/choose'
import { bodyOf, route } from '../utils/route'
import { sendWav } from '../utils/wav'

const body = bodyOf<SampleRequest>(sampleSchema)

/** A sentence in a voice, to hear it; nothing is kept. */
export default route(async (event, { engines }) => {
  const { text, language, ...choice } = await body(event)
  if (!isSpeakable(text)) fail('nothing-to-speak', 'Write a sentence to hear.')
  const casting = castingFor(await engines.list(), language, choice)
  const spoken = await engines.speak(requestForText(casting, text))
  return sendWav(event, spoken, casting.gainDb)
})
