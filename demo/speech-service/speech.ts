import { applyGain, joined, msToSamples } from '#core/audio/pcm'
import { resample } from '#core/audio/resample'
import { within, type Casting } from '#core/score/cast'
import { castingFor } from '#voices/choose'
import type { SpeechEngines } from '#voices/engines'
import { engineKinds } from '#voices/registry'
import { readMarkup } from './ssml'
import { soldVoices } from './voices'

/** Hz */
export const sampleRate = 24_000
const leadMs = 120
const betweenSentencesMs = 90

export interface Speech {
  readonly samples: Int16Array
  /** Place in the request's text (UTF-16, markup left out) and sample, for each word. */
  readonly words: readonly (readonly [place: number, sample: number])[]
}

/** Speaks a request through the local engine that comes first. Rate is in % of the voice's own pace. */
export async function speak(engines: SpeechEngines, order: { readonly voice: string, readonly ratePercent: number, readonly pitchSemitones: number, readonly markup: string }): Promise<Speech> {
  const { colouring, language, wordsPerMinute, gainDb } = soldVoices.find(({ id }) => id === order.voice)!
  const { capabilities, write } = engineKinds()[0]!
  const list = await engines.of(capabilities.id).list()
  const usual = castingFor(list, language, { engine: capabilities.id })
  const casting: Casting = {
    ...usual, gainDb: 0,
    voice: colouring === null ? usual.voice : `${usual.voice}+${capabilities.colourings[colouring]!}`,
    wordsPerMinute: within(capabilities.wordsPerMinute, wordsPerMinute * order.ratePercent / 100),
    pitchSemitones: within(capabilities.pitchSemitones, order.pitchSemitones),
  }
  const pieces: Int16Array[] = []
  const words: (readonly [number, number])[] = []
  let at = 0
  const put = (samples: Int16Array): void => {
    pieces.push(samples)
    at += samples.length
  }
  put(new Int16Array(msToSamples(leadMs, sampleRate)))
  for (const { segments, restMs } of readMarkup(order.markup).sentences) {
    const { request, words: spans } = write(casting, segments)
    const spoken = await engines.speak(request)
    const starts = new Map(Array.from({ length: spans.length / 3 }, (_, index) => [spans[index * 3]!, spans[index * 3 + 1]!]))
    for (let mark = 0; mark < spoken.wordMarks.length; mark += 2) {
      const place = starts.get(spoken.wordMarks[mark]!)
      if (place !== undefined) words.push([place, at + Math.round(spoken.wordMarks[mark + 1]! * sampleRate / spoken.sampleRate)])
    }
    put(applyGain(resample(spoken.samples, spoken.sampleRate, sampleRate), gainDb))
    put(new Int16Array(msToSamples(betweenSentencesMs + restMs, sampleRate)))
  }
  return { samples: joined(pieces), words }
}
