import { layTrack, renderTrack, type Track } from '#core/audio/track'
import type { Casting } from '#core/score/cast'
import type { CastScore } from '#core/score/request'
import type { Content } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { readSsml } from '#core/script/ssml/read'
import { defaultHouseStyle } from '#core/style/house-style'
import { openEngines, type SpeechEngines } from '../../voices/engines'
import type { Spoken } from '../../voices/port'
import { castPart, narrator } from './casting'
import { programs } from './paths'

export const sampleRate = 22_050

export function openVoices(): SpeechEngines {
  return openEngines({ programs, parallel: 2 })
}

/** The passages of SSML that is completed to a document. */
export function contentsOf(ssml: string, language = 'en-GB'): Content[] {
  const { root, source, problems } = checkSsml(ssml, { fragmentLanguage: language })
  if (root === null || problems.some(problem => problem.severity === 'error')) throw new Error(JSON.stringify(problems))
  return readSsml(root, source).passages.map(passage => passage.content)
}

export interface Performance {
  readonly score: CastScore
  readonly track: Track
  readonly samples: Int16Array
  readonly takes: ReadonlyMap<string, Spoken>
}

/** SSML through compiler, engine and assembly: what a listener hears. */
export async function perform(engines: SpeechEngines, ssml: string, casting: Partial<Casting> = {}, castings: Readonly<Record<string, Casting>> = {}, sounds: Readonly<Record<string, Int16Array>> = {}): Promise<Performance> {
  const { root, source, problems } = checkSsml(ssml, { fragmentLanguage: 'en-GB' })
  if (root === null || problems.some(problem => problem.severity === 'error')) throw new Error(JSON.stringify(problems))
  const passages = readSsml(root, source).passages.map((passage, index) => ({ ...passage, id: String(index) }))
  const library = Object.fromEntries(Object.entries(sounds).map(([name, { length }]) => [name, { key: name, sampleCount: length, sampleRate }]))
  const score = castPart({ id: 'p', kind: 'chapter', label: 'P', included: true, passages }, { language: 'en-GB', style: defaultHouseStyle, casting: { ...narrator, ...casting }, castings, sounds: library })
  const takes = new Map<string, Spoken>()
  for (const { key, request } of score.utterances) takes.set(key, takes.get(key) ?? await engines.speak(request))
  const track = layTrack(score, utterance => {
    const take = takes.get(utterance.key)!
    return { sampleCount: take.samples.length, wordMarks: take.wordMarks }
  }, sampleRate, { headMs: 0, tailMs: 0 })
  const samples = new Int16Array(track.sampleCount)
  let at = 0
  for await (const stretch of renderTrack(track, key => Promise.resolve(takes.get(key)?.samples ?? sounds[key]!))) {
    samples.set(stretch, at)
    at += stretch.length
  }
  return { score, track, samples, takes }
}
