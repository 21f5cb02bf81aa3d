import { sayAsKinds, type SayAsKind } from '#core/language/say-as'
import type { DirectionKind, DirectionValue } from '#core/script/directions'

// Directions as the menu and the form offer them.

/** The kinds that can be added, each with its letter and the value its form begins with. */
export const quickValues = {
  rest: { kind: 'rest', ms: 500 },
  emphasis: { kind: 'emphasis', level: 'moderate' },
  sayAs: { kind: 'sayAs', interpretAs: 'cardinal' },
  substitute: { kind: 'substitute', alias: '' },
  phoneme: { kind: 'phoneme', ph: '', alphabet: 'ipa' },
  prosody: { kind: 'prosody', rate: '90%' },
  language: { kind: 'language', language: '' },
  role: { kind: 'role', role: '' },
  sound: { kind: 'sound', sound: '' },
  leftOut: { kind: 'leftOut' },
} as const satisfies Partial<Record<DirectionKind, DirectionValue>>

export type AddedKind = keyof typeof quickValues

export const addedKinds = Object.keys(quickValues) as AddedKind[]

/** What each does, in a few words. */
export const directionHints: Readonly<Record<AddedKind, string>> = {
  rest: 'a silence here', emphasis: 'stress these words', sayAs: 'as a number, a date, letters …', substitute: 'other words in its place',
  phoneme: 'how the words are said', prosody: 'pace, pitch, volume', language: 'read by a voice of it', role: 'who speaks', sound: 'a sound here', leftOut: 'written, not spoken',
}

export const sayAsNames: Readonly<Record<SayAsKind, string>> = {
  characters: 'Letters, one by one', cardinal: 'Number', ordinal: 'Ordinal (fifth)', digits: 'Figures, one by one', telephone: 'Telephone number',
  date: 'Date', time: 'Time', currency: 'Sum of money', unit: 'Measure with unit',
}
export const sayAsChoices = sayAsKinds.map(kind => ({ value: kind, title: sayAsNames[kind] }))
