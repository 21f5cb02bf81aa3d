import { getRouterParam } from 'h3'
import { samplesToMs } from '#core/audio/pcm'
import { wordTimes } from '#core/audio/track'
import type { SpokenWord } from '#shared/api'
import { findUtterance } from '../../../../utils/part'
import { idParam, route } from '../../../../utils/route'

/** When the words of an utterance begin; none while there is no take. */
export default route(async (event, { library }): Promise<SpokenWord[]> => {
  const { utterance } = await findUtterance(idParam(event), getRouterParam(event, 'key') ?? '')
  const take = (await library.index.find([utterance.key])).get(utterance.key)
  if (take === undefined) return []
  return wordTimes(utterance, take, take.sampleRate).map(({ start, end, sample }) => ({ start, end, ms: samplesToMs(sample, take.sampleRate) }))
})
