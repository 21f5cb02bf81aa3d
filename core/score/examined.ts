import { plainContent } from '../script/content'
import type { DirectionValue } from '../script/directions'
import { withDirection } from '../script/edit'
import { defaultHouseStyle } from '../style/house-style'
import type { Casting } from './cast'
import { compilePassage, type PartScore, type Utterance } from './compile'
import type { EngineRequest } from './request'

/** Kinds of directions that an engine may be unable to follow for what they say: sounds that it has not, voices and languages that it has not. */
const examinedKinds = ['phoneme', 'voice', 'language'] as const
export type ExaminedValue = Extract<DirectionValue, { kind: (typeof examinedKinds)[number] }>

export function isExamined(value: DirectionValue): value is ExaminedValue {
  return (examinedKinds as readonly string[]).includes(value.kind)
}

/** What an engine would be asked for a word under one direction, in a text of a language (BCP 47). */
export function requestUnder(value: ExaminedValue, casting: Casting, language: string, text = 'word'): EngineRequest {
  const content = withDirection(plainContent(text), { id: 'd', ...value }, 0, text.length)
  const { utterances } = compilePassage({ id: '', kind: 'paragraph', content }, { previousKind: null, language, style: defaultHouseStyle, casting })
  return utterances[0]!.request
}

/** What an engine may not have of a request, with the voice: requests of one sort are examined once. Empty when there is nothing to be examined. */
export function sortOf({ voice, markup }: EngineRequest): string {
  const tags = markup.match(/<(?:phoneme|voice|lang) [^<>]*>/gu)
  return tags === null ? '' : `${voice} ${tags.join('')}`
}

/** Utterances of a score that ask for something an engine may not have, one of each sort: with its part, for a message. */
export function examinedIn(parts: readonly { readonly label: string, readonly score: PartScore }[]): { readonly label: string, readonly utterance: Utterance }[] {
  const found = new Map<string, { label: string, utterance: Utterance }>()
  for (const { label, score } of parts) {
    for (const utterance of score.utterances) {
      const key = sortOf(utterance.request)
      if (key !== '' && !found.has(key)) found.set(key, { label, utterance })
    }
  }
  return [...found.values()]
}
