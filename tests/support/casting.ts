import type { Casting } from '#core/score/cast'

export const casting: Casting = { engine: 'espeak', voice: 'en-gb', voiceRevision: 'r', wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 }
