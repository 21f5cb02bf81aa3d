import { getRouterParam } from 'h3'
import { heardAlone } from '#services/parts'
import { postEvent } from '#store/events'
import { partBytes } from '#store/sizes'
import { idParam, route } from '../../../../utils/route'
import { loadNow, speakNow } from '../../../../utils/speak-now'
import { sendTrack } from '../../../../utils/wav'

/** One utterance of a part as WAV, with the sounds before it and the rests and levels in it: from its take, which is made at once when there is none. */
export default route(async (event, { database, library, engines, work }) => {
  const partId = idParam(event)
  const found = await work.result('utteranceOf', { partId, key: getRouterParam(event, 'key') ?? '' }, await partBytes(database, partId))
  const { take, isOwn } = found.reference
  const { samples, isNew, known } = isOwn && take === found.utterance.key ? await speakNow(library, engines, { ...found.utterance, purpose: { editionId: found.editionId, partId } }) : await loadNow(library, take)
  if (isNew) await postEvent(database, found.editionId, { kind: 'takes' })
  const { track, score } = heardAlone(found, known)
  return sendTrack(event, track, score, new Map([[take, { samples, sampleRate: known.sampleRate }]]), library)
})
