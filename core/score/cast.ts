/** How a role speaks in one edition. */
export interface Casting {
  readonly engine: EngineId
  /** The voice's id in its engine, e.g. `en-gb`; a variant follows a plus sign: `en-gb+f3`. */
  readonly voice: string
  /** What this voice's sound depends on besides the request: engine version, data, trimming. */
  readonly voiceRevision: string
  /** True words a minute of speech, rests not counted. */
  readonly wordsPerMinute: number
  /** Against the voice's own pitch. */
  readonly pitchSemitones: number
  /** Applied when a track is assembled; 0 dB is the engine's full level. */
  readonly gainDb: number
}

export type EngineId = 'espeak'

export interface Range {
  readonly min: number
  readonly max: number
}

/** What an engine can do, as data: checked before a reading, shown as a reason. */
export interface EngineCapabilities {
  readonly id: EngineId
  readonly name: string
  /** Hz */
  readonly sampleRate: number
  /** Characters of spoken text in one utterance. */
  readonly maximumCharacters: number
  readonly wordsPerMinute: Range
  readonly pitchSemitones: Range
  readonly gainDb: Range
}

/**
 * Limits of the pace: the library's slowest setting is 80, which is spoken at about 97 words a minute;
 * above 400 its rests go wrong. Pitch: its scale of 0…99 reaches seven semitones down and eight up.
 * The level has no room above: a plain reading peaks within 0.3 dB of full scale.
 */
export const engines: Readonly<Record<EngineId, EngineCapabilities>> = {
  espeak: {
    id: 'espeak',
    name: 'Embedded engine',
    sampleRate: 22_050,
    maximumCharacters: 1_000,
    wordsPerMinute: { min: 95, max: 400 },
    pitchSemitones: { min: -7, max: 8 },
    gainDb: { min: -24, max: 0 },
  },
}

/** Pace of narration, *common practice* 150…160; the level leaves room for encoding. */
export const defaultVoiceSettings = { wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 } as const
