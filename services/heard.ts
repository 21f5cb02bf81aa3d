import { trackRateOf } from '#core/score/cast'
import { compilePart } from '#core/score/compile'
import type { CastScore } from '#core/score/request'
import type { HearRequest } from '#shared/schemas'
import { contextOf, loadEdition } from '#store/editions'
import { castScore } from '#voices/cast-score'
import type { Place } from './place'

/** Passages that are heard by themselves, compiled as a part of their own of an edition; `rate`: that of their track, Hz. */
export async function heardScore(_: Place, { editionId, passages }: HearRequest & { readonly editionId: string }): Promise<{ readonly score: CastScore, readonly rate: number }> {
  const context = contextOf(await loadEdition(editionId))
  const part = {
    id: 'heard', kind: 'chapter' as const, label: '', included: true,
    passages: passages.map(({ kind, content, language, role }, index) => ({ id: String(index), kind, content, ...(language === null ? {} : { language }), ...(role === null ? {} : { role }) })),
  }
  return { score: castScore(compilePart(part, context), context), rate: trackRateOf(context, context.engines) }
}
