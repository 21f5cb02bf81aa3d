import { primaryLanguage } from '../language/abbreviations'
import { sayAsKind, sayAsWords } from '../language/say-as'
import type { Direction, DirectionKind } from '../script/directions'
import { pitchOf, rangeFactor, rateFactor, volumeDb } from '../script/ssml/values'
import { engines, type Casting, type EngineId } from './cast'
import { isIpa } from './markup'
import { soundObstacle } from './sounds'

/** How an engine does what a direction asks for. */
export interface Support {
  readonly how: 'native' | 'emulated' | 'unavailable'
  /** How it is emulated, or why it is not to be had: a sentence for the user. */
  readonly note?: string
}

/** What is known where a direction stands. */
export interface Surroundings {
  readonly casting: Casting
  /** BCP 47, of the text. */
  readonly language: string
  /** Languages (BCP 47) that the engine has voices for; not judged without. */
  readonly languages?: readonly string[]
  /** The text that it covers; not judged without. */
  readonly text?: string
  /** Names of the sounds of the production; not judged without. */
  readonly sounds?: readonly string[]
}

type Table = { readonly [K in DirectionKind]: (direction: Extract<Direction, { kind: K }>, around: Surroundings) => Support }

const native: Support = { how: 'native' }
const emulated = (note: string): Support => ({ how: 'emulated', note })
const unavailable = (note: string): Support => ({ how: 'unavailable', note })

/** Rests, levels, sounds and roles are made where a track is assembled, whatever the engine. */
const assembled = {
  leftOut: () => emulated('It is not sent to the voice.'),
  rest: () => emulated('The silence is put in between two words, exact to the sample.'),
  role: () => emulated('The piece is read in the voice of the role.'),
  substitute: () => emulated('The voice is given the other words.'),
  kept: () => unavailable('It is kept for the SSML that it came in; no voice here does anything for it.'),
  keptPoint: () => unavailable('It is kept for the SSML that it came in; no voice here does anything for it.'),
  sound: (direction, { sounds }) => {
    const obstacle = soundObstacle(direction, sounds)
    return obstacle === null ? emulated('It is played here, between the words.') : unavailable(obstacle)
  },
} satisfies Partial<Table>

/** What each engine does for each kind of direction: to add an engine is to add a column. */
const tables: Readonly<Record<EngineId, Table>> = {
  espeak: {
    ...assembled,
    emphasis: () => native,
    sayAs: ({ interpretAs, format }, { language, text }) => {
      const kind = sayAsKind(interpretAs)
      if (kind === 'characters') return native
      const said = sayAsWords(text ?? examples[kind ?? 'cardinal'], interpretAs, text === undefined && kind === 'date' ? 'dmy' : format, language)
      return 'words' in said ? emulated(text === undefined ? 'It is read as words.' : `It is read as “${said.words}”.`) : unavailable(said.reason)
    },
    phoneme: ({ alphabet }) => isIpa(alphabet)
      ? emulated('The signs are given to the voice in its own notation, the nearest sound where it has none of its own.')
      : unavailable(`The alphabet “${alphabet}” is not understood. Write the pronunciation in IPA.`),
    prosody: ({ rate, pitch, range, volume, contour, duration }, { casting }) => {
      if (contour !== undefined) return unavailable('This voice follows no contour of pitch. Use a pitch for each stretch instead.')
      if (duration !== undefined) return unavailable('This voice cannot be given a length. Use a pace instead.')
      return paceOf(rate, casting) ?? pitchSupport(pitch, casting) ?? (range !== undefined && rangeFactor(range) === null ? unavailable('This voice takes a range in per cent or by name only.') : null)
        ?? volumeSupport(volume, casting)
        ?? (pitch !== undefined || volume !== undefined ? emulated('Pitch is set on the scale of the voice, volume where the track is assembled.') : native)
    },
    language: ({ language }, { languages }) => language === '' || languages === undefined || languages.some(each => primaryLanguage(each) === primaryLanguage(language))
      ? emulated('The engine’s voice of that language reads it.')
      : unavailable(`No voice here speaks “${language}”. Choose another language, or write the pronunciation.`),
    voice: () => emulated('The nearest voice of the engine reads it.'),
  },
}

const examples = { characters: 'A', cardinal: '5', ordinal: '5', digits: '5', telephone: '5', date: '5.5.1995', time: '5:30', currency: '€5', unit: '5 km' } as const

function paceOf(rate: string | undefined, { engine, wordsPerMinute }: Casting): Support | null {
  const factor = rate === undefined ? 1 : rateFactor(rate) ?? 1
  const { min, max } = engines[engine].wordsPerMinute
  const pace = wordsPerMinute * factor
  if (pace < min) return unavailable(`That is ${Math.round(pace)} words a minute; this voice gets no slower than ${min}. Choose ${Math.ceil(min / wordsPerMinute * 100)} % or more.`)
  return pace > max ? unavailable(`That is ${Math.round(pace)} words a minute; this voice gets no faster than ${max}. Choose ${Math.floor(max / wordsPerMinute * 100)} % or less.`) : null
}

function pitchSupport(value: string | undefined, { engine, pitchSemitones }: Casting): Support | null {
  const pitch = value === undefined ? { semitones: 0 } : pitchOf(value)
  if (pitch === null || 'hz' in pitch) return unavailable('This voice takes a pitch in semitones or per cent, not in Hz.')
  const { min, max } = engines[engine].pitchSemitones
  const semitones = pitchSemitones + pitch.semitones
  return semitones < min || semitones > max ? unavailable(`With the role’s own pitch that is ${Number(semitones.toFixed(1))} semitones; this voice reaches ${min} to ${max}.`) : null
}

function volumeSupport(value: string | undefined, { engine, gainDb }: Casting): Support | null {
  const db = value === undefined ? 0 : volumeDb(value) ?? 0
  const most = engines[engine].gainDb.max - gainDb
  return db > most ? unavailable(`There is room for ${Number(most.toFixed(1))} dB above the role’s volume; louder would distort. Lower the role’s volume to leave more room.`) : null
}

/** How a casting's engine does a direction, at its place. */
export function supportOf(direction: Direction, around: Surroundings): Support {
  return (tables[around.casting.engine][direction.kind] as (direction: Direction, around: Surroundings) => Support)(direction, around)
}
