import { plainMarkup } from '#core/score/markup'
import { requestFor } from '#core/score/request'
import { fail } from '#core/problem'
import { isSpeakable } from '#core/manuscript/manuscript'
import { sampleSchema, type SampleRequest } from '#shared/schemas'
import { castingFor } from '#voices/choose'
import { bodyOf, route } from '../utils/route'
import { sendWav } from '../utils/wav'

const body = bodyOf<SampleRequest>(sampleSchema)

/** A sentence in a voice, to hear it; nothing is kept. */
export default route(async (event, { engine }) => {
  const { text, language, ...choice } = await body(event)
  if (!isSpeakable(text)) fail('nothing-to-speak', 'Write a sentence to hear.')
  const casting = castingFor(await engine.list(), language, choice)
  const spoken = await engine.speak(requestFor(casting, plainMarkup(text)))
  return sendWav(event, spoken, casting.gainDb)
})
