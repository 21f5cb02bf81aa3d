import { sentenceSpans } from '../language/sentences'
import { isSpeakable } from '../manuscript/manuscript'
import type { Part, Passage, PassageKind } from '../script/script'
import { restBetween, type HouseStyle } from '../style/house-style'
import { engines, type Casting } from './cast'
import { writeMarkup } from './markup'
import { pieces } from './pieces'
import { keyOf, requestFor, type EngineRequest } from './request'
import { spokenForm, writtenSpan } from './spoken'

/** Part of every unit's input: a change of the compiler's results must change it. */
export const compilerVersion = 1

/** One request-sized piece of a score: a sentence, or a piece of one too long for the engine. */
export interface Utterance {
  readonly key: string
  readonly request: EngineRequest
  readonly passageId: string
  /** Silence before it, in ms; 0 for the first of a part and between pieces of one sentence. */
  readonly restBeforeMs: number
  readonly text: string
  /** Its span in the passage's written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
  /** False for the second and later pieces of one sentence. */
  readonly beginsSentence: boolean
}

/** What one passage compiles to. */
export interface Unit {
  readonly passageId: string
  readonly utterances: readonly Utterance[]
}

/** What a passage is compiled from, besides itself. */
export interface CompileContext {
  /** Kind of the nearest spoken passage before it in its part; null for the first. */
  readonly previousKind: PassageKind | null
  readonly language: string
  readonly style: HouseStyle
  readonly casting: Casting
}

/** The score of one part: its utterances in order. Deterministic: equal input, equal score. */
export interface PartScore {
  readonly partId: string
  readonly gainDb: number
  readonly utterances: readonly Utterance[]
}

/** All that `compilePassage` reads, as text: units with equal inputs are equal. */
export function unitInput(passage: Passage, context: CompileContext): string {
  return JSON.stringify([compilerVersion, passage.id, passage.kind, passage.content, context.previousKind, context.language,
    restsRead(passage.kind, context), { ...context.casting, gainDb: 0 }])
}

/** Compiles one passage. Gives no utterance when nothing in it can be spoken. */
export function compilePassage(passage: Passage, context: CompileContext): Unit {
  const form = spokenForm(passage.content)
  const limit = engines[context.casting.engine].maximumCharacters
  const [passageRestMs, sentenceRestMs] = restsRead(passage.kind, context)
  const utterances: Utterance[] = []
  for (const sentence of sentenceSpans(form.text, context.language)) {
    let beginsSentence = true
    for (const piece of pieces(form.text, sentence, limit)) {
      const text = form.text.slice(piece.start, piece.end)
      if (!isSpeakable(text)) continue
      const request = requestFor(context.casting, writeMarkup(text))
      const [start, end] = writtenSpan(form, piece.start, piece.end)
      utterances.push({
        key: keyOf(request), request, passageId: passage.id, text, start, end, beginsSentence,
        restBeforeMs: utterances.length === 0 ? passageRestMs : beginsSentence ? sentenceRestMs : 0,
      })
      beginsSentence = false
    }
  }
  return { passageId: passage.id, utterances }
}

/** A memo for units, by input. */
export interface UnitCache {
  get: (input: string) => Unit | undefined
  set: (input: string, unit: Unit) => void
}

/** Compiles a part passage by passage; a unit found in the cache is not compiled again. */
export function compilePart(part: Part, context: Omit<CompileContext, 'previousKind'>, cache?: UnitCache): PartScore {
  const utterances: Utterance[] = []
  let previousKind: PassageKind | null = null
  for (const passage of part.passages) {
    const unit = compileCached(passage, { ...context, previousKind }, cache)
    if (unit.utterances.length === 0) continue
    for (const utterance of unit.utterances) utterances.push(utterance)
    previousKind = passage.kind
  }
  return { partId: part.id, gainDb: context.casting.gainDb, utterances }
}

function compileCached(passage: Passage, context: CompileContext, cache: UnitCache | undefined): Unit {
  if (cache === undefined) return compilePassage(passage, context)
  const input = unitInput(passage, context)
  const known = cache.get(input)
  if (known !== undefined) return known
  const unit = compilePassage(passage, context)
  cache.set(input, unit)
  return unit
}

function restsRead(kind: PassageKind, { previousKind, style }: CompileContext): [passageRestMs: number, sentenceRestMs: number] {
  return [previousKind === null ? 0 : restBetween(style, previousKind, kind), style.sentenceRestMs]
}
