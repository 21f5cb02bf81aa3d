import type { EngineCapabilities } from '#core/score/cast'
import { emulated, narration, native, noContour, noDuration } from '../supports'

/**
 * Limits of the pace: the library's slowest setting is 80, which is spoken at about 97 words a minute;
 * above 400 its rests go wrong. Pitch: its scale of 0…99 reaches seven semitones down and eight up.
 * The level has no room above: a plain reading peaks within 0.3 dB of full scale.
 */
export const capabilities: EngineCapabilities = {
  id: 'espeak',
  name: 'Embedded engine',
  sampleRate: 22_050,
  maximumCharacters: 1_000,
  wordsPerMinute: { min: 95, max: 400 },
  pitchSemitones: { min: -7, max: 8 },
  gainDb: { min: -24, max: 0 },
  // Measured on one core: the library is loaded anew for each utterance.
  work: { eachMs: 25, perSpokenSecondMs: 12 },
  defaults: narration,
  colourings: ['m3', 'f3', 'm7', 'f2', 'm1', 'f4'],
  directions: {
    emphasis: native,
    sayAs: ['characters'],
    phoneme: emulated('The signs are given to the voice in its own notation, the nearest sound where it has none of its own.'),
    prosody: native,
    pitchOrVolume: emulated('Pitch is set on the scale of the voice, volume where the track is assembled.'),
    contour: noContour,
    duration: noDuration,
    language: emulated('The engine’s voice of that language reads it.'),
    voice: emulated('The nearest voice of the engine reads it.'),
  },
}
