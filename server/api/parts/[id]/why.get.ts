import { whyQuerySchema, type WhyQuery } from '#shared/schemas'
import type { WhyView } from '#shared/api'
import { partBytes } from '#store/sizes'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<WhyQuery>(whyQuerySchema)

/** Why a place of a part is said as it is. */
export default route(async (event, { database, engines, work }): Promise<WhyView> => {
  const { passage, start, end } = query(event)
  const partId = idParam(event)
  const { casting, pronounced, isSpelt, ...why } = await work.result('whyOf', { partId, passage, start: Number(start), end: Number(end) }, await partBytes(database, partId))
  if (pronounced.length > 0) return { ...why, ipa: pronounced.join(' ') }
  const [ipa] = why.spoken.trim() === '' || isSpelt ? [] : await engines.inIpa(casting, [why.spoken.replace(/\s+/gu, ' ').slice(0, 300)])
  return { ...why, ipa: ipa ?? null }
})
