import { resample } from '#core/audio/resample'
import { layTrack, renderTrack, type Track } from '#core/audio/track'
import type { Casting } from '#core/score/cast'
import type { CastScore } from '#core/score/request'
import type { Content } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { readSsml } from '#core/script/ssml/read'
import { choose, type Reference } from '#core/takes/choose'
import type { KnownTake } from '#core/takes/take'
import { defaultHouseStyle } from '#core/style/house-style'
import { prepareRules } from '#core/style/rule'
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
  readonly references: readonly Reference[]
  readonly track: Track
  readonly samples: Int16Array
  readonly takes: ReadonlyMap<string, Spoken>
}

/** SSML through compiler, engine and assembly: what a listener hears. */
export async function perform(engines: SpeechEngines, ssml: string, casting: Partial<Casting> = {}, castings: Readonly<Record<string, Casting>> = {}, sounds: Readonly<Record<string, Int16Array>> = {}, { style = defaultHouseStyle, language = 'en-GB' } = {}): Promise<Performance> {
  const { root, source, problems } = checkSsml(ssml, { fragmentLanguage: language })
  if (root === null || problems.some(problem => problem.severity === 'error')) throw new Error(JSON.stringify(problems))
  const passages = readSsml(root, source).passages.map((passage, index) => ({ ...passage, id: String(index) }))
  const library = Object.fromEntries(Object.entries(sounds).map(([name, { length }]) => [name, { key: name, sampleCount: length, sampleRate }]))
  const score = castPart({ id: 'p', kind: 'chapter', label: 'P', included: true, passages }, { language, style, rules: prepareRules(style.rules), casting: { ...narrator, ...casting }, castings, sounds: library })
  return performScore(engines, score, sounds)
}

/** A score spoken and assembled; its takes may be of several rates. */
export async function performScore(engines: SpeechEngines, score: CastScore, sounds: Readonly<Record<string, Int16Array>> = {}): Promise<Performance> {
  const takes = new Map<string, KnownTake & Spoken>()
  for (const { key, request } of score.utterances) {
    const spoken = takes.get(key) ?? await engines.speak(request)
    takes.set(key, { key, variant: 0, origin: 'engine', textHash: null, sampleCount: spoken.samples.length, ...spoken })
  }
  const references = choose(score, takes)
  const track = layTrack(score, references, sampleRate)
  const samples = new Int16Array(track.sampleCount)
  let at = 0
  for await (const stretch of renderTrack(track, key => Promise.resolve(atTrackRate(takes.get(key)) ?? sounds[key]!))) {
    samples.set(stretch, at)
    at += stretch.length
  }
  return { score, references, track, samples, takes }
}

function atTrackRate(spoken: Spoken | undefined): Int16Array | undefined {
  return spoken === undefined || spoken.sampleRate === sampleRate ? spoken?.samples : resample(spoken.samples, spoken.sampleRate, sampleRate)
}
