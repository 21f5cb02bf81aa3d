import { castingOf, type Cast, type Casting } from '#core/score/cast'
import type { PartScore, Utterance } from '#core/score/compile'
import { segmentsUnder, type ExaminedValue } from '#core/score/examined'
import type { CastScore, CastUtterance, EngineRequest, WrittenRequest } from '#core/score/request'
import { plainTone } from '#core/score/tone'
import { engineCapabilities, writeRequest } from './registry'

/** Requests that were written, by what is said and the casting that says it. */
const written = new WeakMap<Utterance['segments'], Map<string, WrittenRequest>>()

/** The score of a part as a cast speaks it: with what each engine is asked for. */
export function castScore(...given: Parameters<typeof castSteps>): CastScore {
  const steps = castSteps(...given)
  for (;;) {
    const { done, value } = steps.next()
    if (done === true) return value
  }
}

/** The same in steps, an utterance each, so that other work can be done between them. */
export function* castSteps(score: PartScore, cast: Cast): Generator<undefined, CastScore> {
  /** Castings with what decides a request of them, by role. */
  const speakers = new Map<string | undefined, { readonly casting: Casting, readonly mark: string }>()
  const utterances: CastUtterance[] = []
  for (const utterance of score.utterances) {
    yield
    let speaker = speakers.get(utterance.role)
    if (speaker === undefined) {
      const casting = castingOf(cast, utterance.role)
      speaker = { casting, mark: JSON.stringify({ ...casting, gainDb: 0 }) }
      speakers.set(utterance.role, speaker)
    }
    const { request, key, words, length, stretches } = requestOnce(utterance.segments, speaker)
    const acts = stretches.length > 1 || stretches[0]!.gainDb !== 0
    // Spreading an utterance takes several times as long, which counts where a whole book is compiled again.
    utterances.push(Object.assign({ request, key, words, length, gainDb: speaker.casting.gainDb }, utterance, acts ? { stretches } : {}))
  }
  return { ...score, utterances }
}

function requestOnce(segments: Utterance['segments'], { casting, mark }: { readonly casting: Casting, readonly mark: string }): WrittenRequest {
  let byCasting = written.get(segments)
  if (byCasting === undefined) {
    byCasting = new Map()
    written.set(segments, byCasting)
  }
  let request = byCasting.get(mark)
  if (request === undefined) {
    request = writeRequest(casting, segments)
    byCasting.set(mark, request)
  }
  return request
}

/** What an engine is asked for a text without directions. */
export function requestForText(casting: Casting, text: string): EngineRequest {
  return writeRequest(casting, [{ text, tone: plainTone, words: [] }]).request
}

/** What an engine is asked for a word under one direction, in a text of a language (BCP 47). */
export function requestUnder(value: ExaminedValue, casting: Casting, language: string): EngineRequest {
  return writeRequest(casting, segmentsUnder(value, casting, engineCapabilities(), language)).request
}
