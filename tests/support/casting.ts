import type { Cast, Casting } from '#core/score/cast'
import { compilePart, compilePassage, type CompileContext, type UnitCache } from '#core/score/compile'
import type { CastScore, CastUtterance, EngineRequest } from '#core/score/request'
import type { Part, Passage } from '#core/script/script'
import { castScore, requestForText } from '../../voices/cast-score'
import { tokensOf, type MarkupNode } from '../../voices/espeak/markup'
import { engineCapabilities } from '../../voices/registry'

export const casting: Casting = { engine: 'espeak', voice: 'en-gb', voiceRevision: 'r', wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 }
export const narrator: Casting = { ...casting, gainDb: 0 }
export const engines = engineCapabilities()

type Context = Omit<CompileContext, 'previousKind' | 'previousLevel' | 'engines'>

/** A part compiled, and cast. */
export function castPart(part: Part, context: Context, cache?: UnitCache): CastScore {
  return castScore(compilePart(part, { ...context, engines: engineCapabilities() }, cache), context)
}

/** The utterances of a passage by itself, cast. */
export function castPassage(passage: Passage, context: Omit<Context, keyof Cast> & Cast): readonly CastUtterance[] {
  return castScore({ partId: 'p', utterances: compilePassage(passage, { ...context, engines: engineCapabilities(), previousKind: null }).utterances }, context).utterances
}

/** The markup of a request to the embedded engine, as SSML. */
export function markupOf({ body }: EngineRequest): string {
  return tokensOf(body as readonly MarkupNode[]).map(({ source }) => source).join('')
}

/** What the embedded engine is asked for a text without directions. */
export function plainRequest(text: string): EngineRequest {
  return requestForText(casting, text)
}

/** An utterance of a take, for what is laid without being spoken. */
export function takenUtterance(key: string, restBeforeMs = 0, gainDb = 0): CastUtterance {
  return {
    key, restBeforeMs, gainDb, passageId: key, text: key, start: 0, end: key.length, beginsSentence: true, segments: [], words: [], length: 0,
    request: { ...casting, body: [] },
  }
}
