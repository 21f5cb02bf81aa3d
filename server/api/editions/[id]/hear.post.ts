import { layTrack } from '#core/audio/track'
import { fail } from '#core/problem'
import { choose } from '#core/takes/choose'
import { textHash, type KnownTake } from '#core/takes/take'
import { hearSchema, type HearRequest } from '#shared/schemas'
import type { Spoken } from '#voices/port'
import { bodyOf, idParam, route } from '../../../utils/route'
import { sendTrack } from '../../../utils/wav'

const body = bodyOf<HearRequest>(hearSchema)

/** Utterances that are spoken at once for one request. */
const mostUtterances = 40

/** Passages as they would sound in this edition: a selection, or a change before it is made. Nothing is kept. */
export default route(async (event, { engines, library, work }) => {
  const { passages } = await body(event)
  const { score, rate } = await work.result('heardScore', { editionId: idParam(event), passages }, JSON.stringify(passages).length)
  if (score.utterances.length === 0) fail('nothing-to-speak', 'There is nothing in it that can be spoken.')
  if (score.utterances.length > mostUtterances) fail('too-much-to-speak', `This is more than ${mostUtterances} sentences. Select less, or listen from here.`)
  const takes = new Map<string, KnownTake & Spoken>()
  for (const { key, request, text } of score.utterances) if (!takes.has(key)) takes.set(key, spokenTake(key, text, await engines.speak(request)))
  const track = layTrack(score, choose(score, takes), rate)
  return sendTrack(event, track, score, takes, library)
})

function spokenTake(key: string, text: string, spoken: Spoken): KnownTake & Spoken {
  return { key, variant: 0, origin: 'engine', textHash: textHash(text), sampleCount: spoken.samples.length, ...spoken }
}
