import type { EngineCapabilities, Support } from '#core/score/cast'

const native: Support = { how: 'native' }
const emulated = (note: string): Support => ({ how: 'emulated', note })
const unavailable = (note: string): Support => ({ how: 'unavailable', note })

/** What goes through the service's own markup. */
export const capabilities: EngineCapabilities = {
  id: 'netvoice',
  name: 'Speech service',
  isPaid: true,
  sampleRate: 24_000,
  maximumCharacters: 1_000,
  wordsPerMinute: { min: 100, max: 300 },
  pitchSemitones: { min: -6, max: 6 },
  gainDb: { min: -24, max: 0 },
  /** Common practice of services: some tenths of a second for a request, and many times faster than speech. */
  work: { eachMs: 60, perSpokenSecondMs: 25 },
  /** Pace of narration, *common practice* 150…160; the level leaves room for encoding. */
  defaults: { wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 },
  colourings: [],
  directions: {
    emphasis: unavailable('This voice cannot stress words. Use a slower pace or a rest before them.'),
    sayAs: ['characters'],
    phoneme: native,
    prosody: native,
    pitchOrVolume: emulated('Pitch is said by the voice, volume is set where the track is assembled.'),
    contour: unavailable('This voice follows no contour of pitch. Use a pitch for each stretch instead.'),
    duration: unavailable('This voice cannot be given a length. Use a pace instead.'),
    language: unavailable('This voice speaks its own language only. Give these words to a role with another voice, or write how they sound.'),
    voice: unavailable('This voice does not change within a sentence. Give these words to another role.'),
  },
}
