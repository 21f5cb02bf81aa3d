import type { EngineCapabilities } from '#core/score/cast'
import { emulated, narration, noContour, noDuration, unavailable } from '../supports'

/** Pace and pitch as far as the voices keep them: measured at both ends (`tests/unit/voices/flite.test.ts`). */
export const capabilities: EngineCapabilities = {
  id: 'flite',
  name: 'Small English engine',
  sampleRate: 16_000,
  maximumCharacters: 1_000,
  wordsPerMinute: { min: 90, max: 350 },
  pitchSemitones: { min: -6, max: 6 },
  gainDb: { min: -24, max: 0 },
  // Measured on one core, with the slowest voice.
  work: { eachMs: 5, perSpokenSecondMs: 28 },
  defaults: narration,
  colourings: [],
  directions: {
    emphasis: unavailable('This voice cannot stress words. Use a slower pace or a rest before them.'),
    sayAs: ['characters'],
    phoneme: emulated('The signs are given to the voice as sounds of American English, the nearest one where it has none of its own.'),
    prosody: emulated('Spoken as a piece of its own, at its own pace; how far the voice rises and falls stays.'),
    pitchOrVolume: emulated('Spoken as a piece of its own at its own pitch; volume is set where the track is assembled.'),
    contour: noContour,
    duration: noDuration,
    language: unavailable('This engine speaks English only. Give these words to a role with another voice, or write how they sound.'),
    voice: unavailable('This engine does not change its voice within a sentence. Give these words to another role.'),
  },
}
