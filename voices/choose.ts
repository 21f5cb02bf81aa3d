import { primaryLanguage } from '#core/language/abbreviations'
import { defaultVoiceSettings, engines, type Casting } from '#core/score/cast'
import { fail } from '#core/problem'
import type { Voice, VoiceList } from './port'

/** The voices that speak a language: the exact tag first, then the others of the same language. */
export function voicesFor(voices: readonly Voice[], language: string): Voice[] {
  const tag = language.toLowerCase()
  const primary = primaryLanguage(language)
  return voices
    .filter(voice => primaryLanguage(voice.language) === primary)
    .sort((a, b) => closeness(b, tag) - closeness(a, tag))
}

/** The usual voice of a language that has several and none without a region. */
const usual: ReadonlySet<string> = new Set(['en-gb', 'fr-fr', 'cmn'])

function closeness(voice: Voice, tag: string): number {
  if (voice.id === tag) return 2
  return usual.has(voice.id) ? 1 : 0
}

/** Settings as a user gives them; what is not given has its default. */
export interface VoiceChoice {
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
  const voice = choice.voice === undefined ? firstVoice(list, language) : existing(list, choice.voice)
  const casting: Casting = { engine: 'espeak', voiceRevision: list.revision, ...defaultVoiceSettings, ...defined(choice), voice }
  const capabilities = engines[casting.engine]
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

function firstVoice(list: VoiceList, language: string): string {
  const voice = voicesFor(list.voices, language)[0]
  return voice?.id ?? fail('voice-none', `No voice speaks “${language}”. Choose a voice, or correct the language.`)
}

function existing(list: VoiceList, id: string): string {
  const [base, variant] = id.split('+')
  const voice = list.voices.find(candidate => candidate.id === base?.toLowerCase())
  if (voice === undefined) fail('voice-unknown', `There is no voice “${base}”. The command “voices” and the Cast page list them.`)
  if (variant === undefined) return voice.id
  if (!list.variants.some(candidate => candidate.id === variant)) {
    fail('voice-unknown', `There is no voice variant “${variant}”. The command “voices --variants” and the Cast page list them.`)
  }
  return `${voice.id}+${variant}`
}

function defined<T extends object>(value: T): Partial<T> {
  return Object.fromEntries(Object.entries(value).filter(([, entry]) => entry !== undefined)) as Partial<T>
}
