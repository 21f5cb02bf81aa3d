import { fail } from '#core/problem'
import { castingOf, type Cast } from '#core/score/cast'
import type { ExaminedValue } from '#core/score/examined'
import { examinedValueOf, placedDirections, shortcomingsOf } from '#core/score/shortcomings'
import { writtenText } from '#core/script/content'
import type { Passage, Script } from '#core/script/script'
import type { SaidWord, WordFinder } from '#core/words/find-words'
import { requestUnder } from '#voices/cast-score'
import type { SpeechEngines } from '#voices/engines'
import { engineCapabilities } from '#voices/registry'
import { counted, noteOnce } from './print'

export interface Sayable {
  readonly script: Script
  readonly findWords: WordFinder
}

/** What is asked of the engine itself, and where it was asked first. */
interface Asked {
  readonly place: string
  readonly request: ReturnType<typeof requestUnder>
}

/**
 * Says on standard error what the voices cannot do of a script and of its words: sounds, voices and languages that they have not, what is beyond their range. It is read without that, or
 * with what is nearest. `strict`: throws a problem instead.
 */
export async function sayShortcomings({ script, findWords }: Sayable, cast: Cast, engines: SpeechEngines, strict: boolean): Promise<void> {
  const told = new Set<string>()
  const tell = (place: string, message: string): void => {
    told.add(message)
    noteOnce(`${place}: ${message}`)
  }
  const asked = new Map<string, Asked>()
  const capabilities = engineCapabilities()
  script.parts.forEach((part, index) => {
    for (const passage of part.included ? part.passages : []) {
      const text = writtenText(passage.content)
      const place = (start: number, end: number): string => `part ${index + 1}, “${(end > start ? text.slice(start, end) : text.slice(Math.max(0, start - 30), start + 30)).slice(0, 60)}”`
      for (const { start, end, message } of shortcomingsOf(passage, cast, capabilities, script.language)) tell(place(start, end), message)
      for (const { value, casting, language, start, end } of placesAsked(passage, cast, script.language, findWords)) {
        const key = JSON.stringify([value, casting.engine, casting.voice, language])
        if (!asked.has(key)) asked.set(key, { place: place(start, end), request: requestUnder(value, casting, language) })
      }
    }
  })
  const all = [...asked.values()]
  const problems = await engines.examine(all.map(({ request }) => request))
  all.forEach(({ place }, index) => {
    const problem = problems[index]
    if (problem !== undefined && problem !== null) tell(place, problem.message)
  })
  if (strict && told.size > 0) fail('voice-cannot', `${counted(told.size, 'thing')} that the script asks for cannot be done by these voices, so nothing was read. Change ${told.size === 1 ? 'it' : 'them'}, or leave --strict out to read all the same.`)
}

interface ExaminedPlace {
  readonly value: ExaminedValue
  readonly casting: Cast['casting']
  readonly language: string
  readonly start: number
  readonly end: number
}

/** What of a passage an engine is asked about: directions, its own language, and words of the wordbooks. */
function placesAsked(passage: Passage, cast: Cast, otherwise: string, findWords: WordFinder): ExaminedPlace[] {
  const text = writtenText(passage.content)
  const language = passage.language ?? otherwise
  const casting = castingOf(cast, passage.role)
  const all = { casting, language, start: 0, end: text.length }
  return [
    ...passage.language === undefined || passage.language === otherwise ? [] : [{ ...all, value: { kind: 'language', language } as const }],
    ...placedDirections(passage, cast, otherwise).flatMap((placed): ExaminedPlace[] => {
      const value = examinedValueOf(placed.direction)
      return value === null ? [] : [{ ...placed, value }]
    }),
    ...findWords(text, 0, text.length, language).flatMap(({ said, start, end }) => soundsIn(said).map((ph): ExaminedPlace => ({ ...all, start, end, value: { kind: 'phoneme', ph } }))),
  ]
}

/** The pronunciations of a word, and of the words that are said in its place. */
function soundsIn(said: SaidWord): string[] {
  return 'ph' in said ? [said.ph] : 'words' in said ? (said.within ?? []).flatMap(hit => soundsIn(hit.said)) : []
}
