import { fail } from '#core/problem'
import { whyQuerySchema, type WhyQuery } from '#shared/schemas'
import type { WhyView } from '#shared/api'
import { PartRow } from '#store/models'
import { scoreEdition } from '#store/score'
import { idParam, queryOf, route } from '../../../utils/route'
import { whyAt } from '../../../utils/why'

const query = queryOf<WhyQuery>(whyQuerySchema)

/** Why a place of a part is said as it is. */
export default route(async (event, { engine }): Promise<WhyView> => {
  const { passage, start, end } = query(event)
  const id = idParam(event)
  const row = await PartRow.findByPk(id) ?? fail('not-found', 'This part is gone.')
  const scored = await scoreEdition(row.editionId, id)
  const why = whyAt(scored, scored.parts[0]!, passage, Number(start), Number(end)) ?? fail('not-found', 'This passage is gone. Open the part again.')
  const phonemes = [...why.sent.matchAll(/<phoneme ph="([^"]*)">/gu)].map(match => match[1]!)
  if (phonemes.length > 0) return { ...why, ipa: phonemes.join(' ') }
  const isSpelt = why.sent.includes('<say-as')
  const [ipa] = why.spoken.trim() === '' || isSpelt ? [] : await engine.inIpa?.(scored.casting.voice, [why.spoken.replace(/\s+/gu, ' ').slice(0, 300)]) ?? []
  return { ...why, ipa: ipa ?? null }
})
