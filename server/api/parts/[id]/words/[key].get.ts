import { getRouterParam } from 'h3'
import type { SpokenWord } from '#shared/api'
import { partBytes } from '#store/sizes'
import { idParam, route } from '../../../../utils/route'

/** When the words of an utterance begin; none while there is no take. */
export default route(async (event, { database, work }): Promise<SpokenWord[]> => {
  const partId = idParam(event)
  return work.result('wordTimesOf', { partId, key: getRouterParam(event, 'key') ?? '' }, await partBytes(database, partId))
})
