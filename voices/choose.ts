import type { Casting, EngineId } from '#core/score/cast'
import { fail } from '#core/problem'
import type { Voice, VoiceList } from './port'
import { engineKind } from './registry'
import { voicesFor } from './voices-for'

/** Settings as a user gives them; what is not given has its default. */
export interface VoiceChoice {
  /** Of the voice, where several engines have one of that id. */
  readonly engine?: EngineId
  readonly voice?: string
  readonly wordsPerMinute?: number
  readonly pitchSemitones?: number
  readonly gainDb?: number
}

/**
 * The casting for a choice. Throws a problem for a voice or variant that does not exist, a value out of the
 * engine's range, or a language that no voice speaks when no voice was chosen.
 */
export function castingFor(list: VoiceList, language: string, choice: VoiceChoice): Casting {
  const { engine, revision, voice } = choice.voice === undefined ? firstVoice(list, language, choice.engine) : existing(list, choice.voice, choice.engine)
  const { capabilities } = engineKind(engine)
  const casting: Casting = { engine, voiceRevision: revision, ...capabilities.defaults, ...defined(choice), voice }
  const check = (what: string, value: number, range: { min: number, max: number }, unit: string): void => {
    if (!(value >= range.min && value <= range.max)) {
      fail('voice-setting', `${what} goes from ${range.min} to ${range.max} ${unit}; ${value} is outside.`)
    }
  }
  check('Pace', casting.wordsPerMinute, capabilities.wordsPerMinute, 'words a minute')
  check('Pitch', casting.pitchSemitones, capabilities.pitchSemitones, 'semitones')
  check('Volume', casting.gainDb, capabilities.gainDb, 'dB')
  return casting
}

type Found = Pick<Voice, 'engine' | 'revision'> & Pick<Casting, 'voice'>

function firstVoice(list: VoiceList, language: string, engine: EngineId | undefined): Found {
  const [voice] = voicesFor(list.voices.filter(each => engine === undefined || each.engine === engine), language)
  return voice === undefined ? fail('voice-none', `No voice speaks “${language}”. Choose a voice, or correct the language.`) : { engine: voice.engine, revision: voice.revision, voice: voice.id }
}

function existing(list: VoiceList, id: string, engine: EngineId | undefined): Found {
  const [base, variant] = id.split('+')
  const voice = list.voices.find(candidate => candidate.id === base?.toLowerCase() && (engine === undefined || candidate.engine === engine))
  if (voice === undefined) fail('voice-unknown', `There is no voice “${base}”. The command “voices” and the Cast page list them.`)
  const found = { engine: voice.engine, revision: voice.revision, voice: voice.id }
  if (variant === undefined) return found
  if (!list.variants.some(candidate => candidate.engine === voice.engine && candidate.id === variant)) {
    fail('voice-unknown', `There is no voice variant “${variant}”. The command “voices --variants” and the Cast page list them.`)
  }
  return { ...found, voice: `${voice.id}+${variant}` }
}

function defined<T extends object>(value: T): Partial<T> {
  return Object.fromEntries(Object.entries(value).filter(([, entry]) => entry !== undefined)) as Partial<T>
}
