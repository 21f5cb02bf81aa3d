import { compilePart, type CompileContext, type UnitCache } from '#core/score/compile'
import type { CastScore } from '#core/score/request'
import type { Part } from '#core/script/script'
import { castScore } from '#voices/cast-score'
import { engineCapabilities, engineKinds } from '#voices/registry'

/** A voice to compile for, without asking its engine. */
export const casting = { engine: engineKinds()[0]!.capabilities.id, voice: 'en-gb', voiceRevision: '1', wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 }

/** The score of a part for that voice. */
export function scoreOf(part: Part, context: Omit<CompileContext, 'previousKind' | 'casting' | 'engines'>, cache?: UnitCache): CastScore {
  return castScore(compilePart(part, { ...context, casting, engines: engineCapabilities() }, cache), { casting })
}
