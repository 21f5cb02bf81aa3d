import { getRouterParam } from 'h3'
import { trackOfUtterance } from '#services/parts'
import { postEvent } from '#store/events'
import { partBytes } from '#store/sizes'
import { idParam, route } from '../../../../utils/route'
import { speakNow } from '../../../../utils/speak-now'
import { sendTrack } from '../../../../utils/wav'

/** One utterance of a part as WAV, with the sounds before it and the rests and levels in it: from its take, which is made at once when there is none. */
export default route(async (event, { database, library, engines, work }) => {
  const partId = idParam(event)
  const found = await work.result('utteranceOf', { partId, key: getRouterParam(event, 'key') ?? '' }, await partBytes(database, partId))
  const { samples, isNew, ...shape } = await speakNow(library, engines, found.utterance)
  if (isNew) await postEvent(database, found.editionId, { kind: 'takes' })
  const { track, score } = trackOfUtterance(found, shape)
  return sendTrack(event, track, score, new Map([[found.utterance.key, samples]]), library)
})
