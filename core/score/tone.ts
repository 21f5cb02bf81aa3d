import { sayAsKind } from '../language/say-as'
import type { Direction } from '../script/directions'
import { isIpa, rateFactor, pitchOf, rangeFactor, volumeDb } from '../script/ssml/values'
import type { Gap } from './sounds'

/** How a text is spoken: neutral, as directions ask for it, whatever the engine. */
export interface Tone {
  /** Factor of the role's pace. */
  readonly rate: number
  /** Against the role's pitch. */
  readonly pitchSemitones: number
  /** Factor of the voice's own range of pitch. */
  readonly range: number
  /** Against the role's level. */
  readonly gainDb: number
  /** Of SSML's `emphasis`. */
  readonly emphasis: string | null
  /** BCP 47, where it is not the edition's. */
  readonly language: string | null
  /** Where no voice speaks that language nothing is said (`onlangfailure` of SSML). */
  readonly orUnspoken?: true
  /** Properties of SSML's `voice`. */
  readonly voice: Readonly<Record<string, string>> | null
  /** Said as these sounds (IPA); segments with one id are said once together. */
  readonly phoneme: { readonly id: string, readonly ph: string } | null
  /** Said letter by letter. */
  readonly characters: boolean
}

export const plainTone: Tone = { rate: 1, pitchSemitones: 0, range: 1, gainDb: 0, emphasis: null, language: null, voice: null, phoneme: null, characters: false }

/** A piece of an utterance in one tone. */
export interface ToneSegment {
  readonly text: string
  readonly tone: Tone
  /** Silence and sounds before it, within the utterance. */
  readonly gap?: Gap
  /** The words of its text (`segmentWords`) in order: start and end of each in the passage's written text, in one list. */
  readonly words: readonly number[]
}

/** The words of a text as they are counted in segments: what white space parts, and what stands behind a long dash. */
export const segmentWords = /[—–]+|[^\s—–]+[—–]*/gu

/** White space, in a group, or a word. */
export const spacesAndWords = new RegExp(`(\\s+)|${segmentWords.source}`, 'gu')

/** Silence, as a level. */
export const silentDb = -120

/**
 * The tone under directions, outermost first. A pace is a factor of the voice's own, so the innermost counts; pitch,
 * range and volume change what surrounds them (SSML 1.1, 3.2.4). A value that says nothing changes nothing.
 */
export function toneOf(directions: readonly Direction[], outer: Tone = plainTone): Tone {
  let tone = outer
  for (const direction of directions) {
    switch (direction.kind) {
      case 'emphasis': tone = { ...tone, emphasis: direction.level === 'none' ? null : direction.level }; break
      case 'language': {
        const { orUnspoken: _, ...rest } = tone
        tone = { ...rest, language: direction.language === '' ? null : direction.language, ...(direction.onlangfailure === 'ignoretext' ? { orUnspoken: true } : {}) }
        break
      }
      case 'voice': tone = { ...tone, voice: Object.keys(direction.attributes).length === 0 ? null : direction.attributes }; break
      case 'phoneme': tone = isIpa(direction.alphabet) ? { ...tone, phoneme: { id: direction.id, ph: direction.ph } } : tone; break
      case 'sayAs': tone = { ...tone, characters: sayAsKind(direction.interpretAs) === 'characters' }; break
      case 'prosody': {
        const pitch = direction.pitch === undefined ? null : pitchOf(direction.pitch)
        tone = {
          ...tone,
          rate: (direction.rate === undefined ? null : rateFactor(direction.rate)) ?? tone.rate,
          pitchSemitones: tone.pitchSemitones + (pitch !== null && 'semitones' in pitch ? pitch.semitones : 0),
          range: tone.range * ((direction.range === undefined ? null : rangeFactor(direction.range)) ?? 1),
          gainDb: Math.max(silentDb, tone.gainDb + ((direction.volume === undefined ? null : volumeDb(direction.volume)) ?? 0)),
        }
        break
      }
    }
  }
  return tone
}
