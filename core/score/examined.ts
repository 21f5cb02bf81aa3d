import { plainContent } from '../script/content'
import type { DirectionValue } from '../script/directions'
import { withDirection } from '../script/edit'
import { defaultHouseStyle } from '../style/house-style'
import { castingOf, type Cast, type Casting, type Engines } from './cast'
import { compilePassage, type PartScore, type Utterance } from './compile'

/** Kinds of directions that an engine may be unable to follow for what they say: sounds that it has not, voices and languages that it has not. */
const examinedKinds = ['phoneme', 'voice', 'language'] as const
export type ExaminedValue = Extract<DirectionValue, { kind: (typeof examinedKinds)[number] }>

export function isExamined(value: DirectionValue): value is ExaminedValue {
  return (examinedKinds as readonly string[]).includes(value.kind)
}

/** What is to be said of a word under one direction, in a text of a language (BCP 47). */
export function segmentsUnder(value: ExaminedValue, casting: Casting, engines: Engines, language: string, text = 'word'): Utterance['segments'] {
  const content = withDirection(plainContent(text), { id: 'd', ...value }, 0, text.length)
  const { utterances } = compilePassage({ id: '', kind: 'paragraph', content }, { previousKind: null, language, style: defaultHouseStyle, casting, engines })
  return utterances[0]!.segments
}

/** What an engine may not have of an utterance, with the voice: those of one sort are examined once. Empty when there is nothing to be examined. */
function sortOf({ segments }: Utterance, { engine, voice }: Casting): string {
  const asked = segments.flatMap(({ tone }) => tone.phoneme === null && tone.voice === null && tone.language === null ? [] : [[tone.phoneme?.ph, tone.voice, tone.language]])
  return asked.length === 0 ? '' : JSON.stringify([engine, voice, asked])
}

/** An utterance that asks for something an engine may not have. */
export interface Examined<U extends Utterance = Utterance> {
  readonly sort: string
  readonly utterance: U
}

/** Utterances of a score that ask for something an engine may not have, one of each sort. */
export function examinedIn<U extends Utterance>({ utterances }: PartScore & { readonly utterances: readonly U[] }, cast: Cast): Examined<U>[] {
  const found = new Map<string, U>()
  for (const utterance of utterances) {
    const sort = sortOf(utterance, castingOf(cast, utterance.role))
    if (sort !== '' && !found.has(sort)) found.set(sort, utterance)
  }
  return [...found].map(([sort, utterance]) => ({ sort, utterance }))
}
