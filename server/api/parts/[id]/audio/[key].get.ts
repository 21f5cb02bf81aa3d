import { getRouterParam } from 'h3'
import { layTrack } from '#core/audio/track'
import type { Utterance } from '#core/score/compile'
import { postEvent } from '#store/events'
import { findUtterance } from '../../../../utils/part'
import { idParam, route } from '../../../../utils/route'
import { speakNow } from '../../../../utils/speak-now'
import { sendTrack } from '../../../../utils/wav'

/** One utterance of a part as WAV, with the sounds before it and the rests and levels in it: from its take, which is made at once when there is none. */
export default route(async (event, { database, library, engine }) => {
  const { part, utterance } = await findUtterance(idParam(event), getRouterParam(event, 'key') ?? '')
  const { samples, isNew, ...shape } = await speakNow(library, engine, utterance)
  if (isNew) await postEvent(database, part.row.editionId, { kind: 'takes' })
  const { soundsAfter: _, restAfterMs: __, ...whole } = part.score
  const score = { ...whole, utterances: [withoutRestBefore(utterance)] }
  const track = layTrack(score, () => shape, shape.sampleRate, { headMs: 0, tailMs: 0 })
  return sendTrack(event, track, score, new Map([[utterance.key, samples]]), library)
})

/** An utterance that begins at once: with its first sound, or its speech. */
function withoutRestBefore(utterance: Utterance): Utterance {
  const [first, ...others] = utterance.soundsBefore ?? []
  return first === undefined ? { ...utterance, restBeforeMs: 0 } : { ...utterance, soundsBefore: [{ ...first, restBeforeMs: 0 }, ...others] }
}
