import type { WordEntry } from '#core/words/wordbook'

/** The words of the handbook that a voice would say wrong, or that were listened to. */
export const words: readonly Omit<WordEntry, 'id'>[] = [
  { graphemes: ['Varroa', 'varroa'], language: 'en', said: [{ by: 'respelling', text: 'vuh-ROH-uh' }], note: 'the mite', heard: true },
  { graphemes: ['EFB'], language: 'en', said: [{ by: 'alias', text: 'European foul brood' }], matchCase: true },
  { graphemes: ['AFB'], language: 'en', said: [{ by: 'letters' }], matchCase: true },
  { graphemes: ['Tamsin'], language: 'en', said: [{ by: 'ipa', text: 'ˈtamzɪn' }], heard: true },
  { graphemes: ['Oswin'], language: 'en', said: [{ by: 'respelling', text: 'OZ-win' }] },
  { graphemes: ['lead'], language: 'en', said: [{ by: 'ipa', text: 'lɛd' }], beside: { before: ['of'], after: ['flashing', 'pipe'] }, note: 'the metal' },
]
