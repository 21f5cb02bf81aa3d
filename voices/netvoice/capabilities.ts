import type { EngineCapabilities } from '#core/score/cast'
import { emulated, narration, native, noContour, noDuration, unavailable } from '../supports'

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
  defaults: narration,
  colourings: [],
  directions: {
    emphasis: unavailable('This voice cannot stress words. Use a slower pace or a rest before them.'),
    sayAs: ['characters'],
    phoneme: native,
    prosody: native,
    pitchOrVolume: emulated('Pitch is said by the voice, volume is set where the track is assembled.'),
    contour: noContour,
    duration: noDuration,
    language: unavailable('This voice speaks its own language only. Give these words to a role with another voice, or write how they sound.'),
    voice: unavailable('This voice does not change within a sentence. Give these words to another role.'),
  },
}
