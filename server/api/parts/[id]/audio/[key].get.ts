import { getRouterParam } from 'h3'
import { fail } from '#core/problem'
import { scorePart } from '../../../../utils/part'
import { idParam, route } from '../../../../utils/route'
import { speakNow } from '../../../../utils/speak-now'
import { sendWav } from '../../../../utils/wav'

/** One utterance of a part as WAV: from its take, which is made at once when there is none. */
export default route(async (event, { library, engine }) => {
  const key = getRouterParam(event, 'key') ?? ''
  const { part } = await scorePart(idParam(event))
  const utterance = part.score.utterances.find(candidate => candidate.key === key)
  if (utterance === undefined) fail('not-found', 'This sentence has changed. Load the page again.')
  return sendWav(event, await speakNow(library, engine, utterance), part.score.gainDb)
})
