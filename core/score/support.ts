import { primaryLanguage } from '../language/abbreviations'
import { sayAsKind, sayAsWords } from '../language/say-as'
import { isWordElement, type Direction, type DirectionKind } from '../script/directions'
import { isIpa, pitchOf, rangeFactor, rateFactor, volumeDb } from '../script/ssml/values'
import type { Casting, EngineCapabilities, Support } from './cast'
import { soundObstacle } from './sounds'
import { plainTone, type Tone } from './tone'

/** What is known where a direction stands. */
export interface Surroundings {
  readonly casting: Casting
  /** Of the casting's engine. */
  readonly engine: EngineCapabilities
  /** BCP 47, of the text. */
  readonly language: string
  /** Languages (BCP 47) that the engine has voices for; not judged without. */
  readonly languages?: readonly string[]
  /** The tone that it stands in, where it stands in others. */
  readonly outer?: Tone
  /** The text that it covers; not judged without. */
  readonly text?: string
  /** Names of the sounds of the production; not judged without. */
  readonly sounds?: readonly string[]
}

type Table = { readonly [K in DirectionKind]: (direction: Extract<Direction, { kind: K }>, around: Surroundings) => Support }

const native: Support = { how: 'native' }
const emulated = (note: string): Support => ({ how: 'emulated', note })
const unavailable = (note: string): Support => ({ how: 'unavailable', note })

const table: Table = {
  // Rests, levels, sounds and roles are made where a track is assembled, whatever the engine.
  leftOut: () => emulated('It is not sent to the voice.'),
  rest: () => emulated('The silence is put in between two words, exact to the sample.'),
  role: () => emulated('The piece is read in the voice of the role.'),
  substitute: () => emulated('The voice is given the other words.'),
  kept: ({ element, attributes }) => isWordElement(element) && attributes['role'] !== undefined ? emulated('Its role chooses among the entries of the wordbook for this word.') : unavailable('It is kept for the SSML that it came in; no voice here does anything for it.'),
  keptPoint: ({ says }, { engine }) => says !== undefined ? 'alias' in says ? emulated(`The voice says “${says.alias}” here.`) : engine.directions.phoneme : unavailable('It is kept for the SSML that it came in; no voice here does anything for it.'),
  sound: (direction, { sounds }) => {
    const obstacle = soundObstacle(direction, sounds)
    return obstacle === null ? emulated('It is played here, between the words.') : unavailable(obstacle)
  },
  // The others are the engine's own affair.
  emphasis: (_, { engine }) => engine.directions.emphasis,
  sayAs: ({ interpretAs, format }, { engine, language, text }) => {
    const kind = sayAsKind(interpretAs)
    if (kind !== null && engine.directions.sayAs.includes(kind)) return native
    const said = sayAsWords(text ?? examples[kind ?? 'cardinal'], interpretAs, text === undefined && kind === 'date' ? 'dmy' : format, language)
    return 'words' in said ? emulated(text === undefined ? 'It is read as words.' : `It is read as “${said.words}”.`) : unavailable(said.reason)
  },
  phoneme: ({ alphabet }, { engine }) => isIpa(alphabet)
    ? engine.directions.phoneme
    : unavailable(`The alphabet “${alphabet}” is not understood. Write the pronunciation in IPA.`),
  prosody: ({ rate, pitch, range, volume, contour, duration }, around) => {
    const { directions } = around.engine
    return [
      ...(contour === undefined ? [] : [directions.contour]), ...(duration === undefined ? [] : [directions.duration]), paceOf(rate, around), pitchSupport(pitch, around),
      range !== undefined && rangeFactor(range) === null ? unavailable('This voice takes a range in per cent or by name only.') : null,
      volumeSupport(volume, around),
    ].find(support => support?.how === 'unavailable') ?? (pitch !== undefined || volume !== undefined ? directions.pitchOrVolume : directions.prosody)
  },
  language: ({ language }, { engine, languages }) => language === '' || languages === undefined || languages.some(each => primaryLanguage(each) === primaryLanguage(language))
    ? engine.directions.language
    : unavailable(`No voice here speaks “${language}”. Choose another language, or write the pronunciation.`),
  voice: (_, { engine }) => engine.directions.voice,
}

const examples = { characters: 'A', cardinal: '5', ordinal: '5', digits: '5', telephone: '5', date: '5.5.1995', time: '5:30', currency: '€5', unit: '5 km' } as const

function paceOf(rate: string | undefined, { engine, casting: { wordsPerMinute } }: Surroundings): Support | null {
  const factor = rate === undefined ? 1 : rateFactor(rate) ?? 1
  const { min, max } = engine.wordsPerMinute
  const pace = wordsPerMinute * factor
  if (pace < min) return unavailable(`That is ${Math.round(pace)} words a minute; this voice gets no slower than ${min}. Choose ${Math.ceil(min / wordsPerMinute * 100)} % or more.`)
  return pace > max ? unavailable(`That is ${Math.round(pace)} words a minute; this voice gets no faster than ${max}. Choose ${Math.floor(max / wordsPerMinute * 100)} % or less.`) : null
}

function pitchSupport(value: string | undefined, { engine, casting: { pitchSemitones }, outer = plainTone }: Surroundings): Support | null {
  const pitch = value === undefined ? { semitones: 0 } : pitchOf(value)
  if (pitch === null || 'hz' in pitch) return unavailable('This voice takes a pitch in semitones or per cent, not in Hz.')
  const { min, max } = engine.pitchSemitones
  const semitones = pitchSemitones + outer.pitchSemitones + pitch.semitones
  return semitones < min || semitones > max ? unavailable(`With ${outer.pitchSemitones === 0 ? 'the role’s own pitch' : 'all that is around it'} that is ${Number(semitones.toFixed(1))} semitones; this voice reaches ${min} to ${max}.`) : null
}

function volumeSupport(value: string | undefined, { engine, casting: { gainDb }, outer = plainTone }: Surroundings): Support | null {
  const db = value === undefined ? 0 : outer.gainDb + (volumeDb(value) ?? 0)
  const most = engine.gainDb.max - gainDb
  return db > most ? unavailable(`There is room for ${Number(most.toFixed(1))} dB above the role’s volume; what is louder is held back to that. Lower the role’s volume to leave more room.`) : null
}

/** How a casting's engine does a direction, at its place. */
export function supportOf(direction: Direction, around: Surroundings): Support {
  return (table[direction.kind] as (direction: Direction, around: Surroundings) => Support)(direction, around)
}
