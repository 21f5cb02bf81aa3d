import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { isExamined, type ExaminedValue } from '#core/score/examined'
import { writtenText } from '#core/script/content'
import { withoutDirection } from '#core/script/edit'
import type { Passage, Script } from '#core/script/script'
import type { WordFinder } from '#core/words/find-words'
import { requestUnder } from '#voices/cast-score'
import type { SpeechEngines } from '#voices/engines'
import { counted, noteOnce } from './print'

export interface Sayable {
  readonly script: Script
  readonly findWords: WordFinder
}

/**
 * The script and the words without what the engine cannot say: sounds that the voice has not, voices and languages that do not exist. Each is said on standard error, and its
 * text is read without it. `strict`: throws a problem instead.
 */
export async function withoutUnsayable({ script, findWords }: Sayable, casting: Casting, engines: SpeechEngines, strict: boolean): Promise<Sayable> {
  const asked = new Map<string, { readonly value: ExaminedValue, readonly language: string, readonly place: string }>()
  const ask = (value: ExaminedValue, language: string, place: string): void => {
    const key = keyOf(value, language)
    if (!asked.has(key)) asked.set(key, { value, language, place })
  }
  script.parts.forEach((part, index) => {
    for (const passage of part.included ? part.passages : []) {
      const language = passage.language ?? script.language
      const place = `part ${index + 1}, “${writtenText(passage.content).slice(0, 60)}”`
      for (const direction of passage.content.directions) if (isExamined(direction)) ask(valueOf(direction), language, place)
      for (const value of wordsOf(passage, language, findWords)) ask(value, language, place)
    }
  })
  const all = [...asked]
  const problems = await engines.examine(all.map(([, { value, language }]) => requestUnder(value, casting, language)))
  const bad = new Set<string>()
  all.forEach(([key, { place }], index) => {
    const problem = problems[index]
    if (problem === undefined || problem === null) return
    bad.add(key)
    noteOnce(`${place}: ${problem.message}${strict ? '' : ' It is read without it.'}`)
  })
  if (bad.size === 0) return { script, findWords }
  if (strict) fail('voice-cannot', `${counted(bad.size, 'direction or word', 'directions and words')} cannot be said by this voice, so nothing was read. Change them, or leave --strict out to read without them.`)
  const cannot = (value: ExaminedValue, language: string): boolean => bad.has(keyOf(value, language))
  return {
    script: { ...script, parts: script.parts.map(part => ({ ...part, passages: part.passages.map(passage => without(passage, passage.language ?? script.language, cannot)) })) },
    findWords: (text, from, to, language) => findWords(text, from, to, language).filter(({ said }) => !('ph' in said) || !cannot({ kind: 'phoneme', ph: said.ph }, language)),
  }
}

function keyOf(value: ExaminedValue, language: string): string {
  return JSON.stringify([value, language])
}

function valueOf({ id: _, ...value }: ExaminedValue & { readonly id: string }): ExaminedValue {
  return value as ExaminedValue
}

function wordsOf({ content }: Passage, language: string, findWords: WordFinder): ExaminedValue[] {
  const text = writtenText(content)
  return findWords(text, 0, text.length, language).flatMap(({ said }): ExaminedValue[] => 'ph' in said ? [{ kind: 'phoneme', ph: said.ph }] : [])
}

function without(passage: Passage, language: string, cannot: (value: ExaminedValue, language: string) => boolean): Passage {
  const gone = passage.content.directions.filter(direction => isExamined(direction) && cannot(valueOf(direction), language))
  return gone.length === 0 ? passage : { ...passage, content: gone.reduce((content, { id }) => withoutDirection(content, id), passage.content) }
}
