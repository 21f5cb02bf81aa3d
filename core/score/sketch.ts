import { sentenceSpans } from '../language/sentences'
import { isSpeakable } from '../manuscript/manuscript'
import type { Passage } from '../script/script'
import type { HouseStyle } from '../style/house-style'
import { ruledRests } from './compile'

/** A sentence of a text that is not compiled, with the rest that its score would have before it. */
export interface SketchedSentence {
  readonly text: string
  readonly restBeforeMs: number
}

/** About the score of some passages: their sentences as they are written, with the rests of a house style. */
export function sketchScore(passages: readonly (Pick<Passage, 'kind' | 'level' | 'language'> & { readonly text: string })[], language: string, style: HouseStyle): SketchedSentence[] {
  const sketch: SketchedSentence[] = []
  let previous: (typeof passages)[number] | null = null
  let afterSceneBreak = false
  for (const passage of passages) {
    if (passage.kind === 'sceneBreak') {
      afterSceneBreak = true
      continue
    }
    const [beforeMs, sentenceMs] = ruledRests(passage, { previousKind: previous?.kind ?? null, previousLevel: previous?.level, afterSceneBreak, style })
    const sentences = sentenceSpans(passage.text, passage.language ?? language).map(({ start, end }) => passage.text.slice(start, end)).filter(isSpeakable)
    sketch.push(...sentences.map((text, index) => ({ text, restBeforeMs: index === 0 ? beforeMs : sentenceMs })))
    if (sentences.length === 0) continue
    previous = passage
    afterSceneBreak = false
  }
  return sketch
}
