import { whyQuerySchema, type WhyQuery } from '#shared/schemas'
import type { WhyView } from '#shared/api'
import { partBytes } from '#store/sizes'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<WhyQuery>(whyQuerySchema)

/** Why a place of a part is said as it is. */
export default route(async (event, { database, engine, work }): Promise<WhyView> => {
  const { passage, start, end } = query(event)
  const partId = idParam(event)
  const { voice, ...why } = await work.result('whyOf', { partId, passage, start: Number(start), end: Number(end) }, await partBytes(database, partId))
  const phonemes = [...why.sent.matchAll(/<phoneme ph="([^"]*)">/gu)].map(match => match[1]!)
  if (phonemes.length > 0) return { ...why, ipa: phonemes.join(' ') }
  const isSpelt = why.sent.includes('<say-as')
  const [ipa] = why.spoken.trim() === '' || isSpelt ? [] : await engine.inIpa?.(voice, [why.spoken.replace(/\s+/gu, ' ').slice(0, 300)]) ?? []
  return { ...why, ipa: ipa ?? null }
})
