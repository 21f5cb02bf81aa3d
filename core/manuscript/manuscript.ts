import type { PassageKind } from '../script/script'

/** What a reader makes of a file: its blocks in reading order, nothing decided about parts yet. */
export interface Manuscript {
  readonly format: string
  readonly title: string | null
  readonly author: string | null
  /** BCP 47, when the file declares it; what it is detected to be otherwise. */
  readonly language: string
  readonly languageSource: LanguageSource
  readonly blocks: readonly Block[]
}

/** `assumed`: there was too little text to tell. */
export type LanguageSource = 'chosen' | 'declared' | 'detected' | 'assumed'

export interface Block {
  readonly kind: Exclude<PassageKind, 'title'>
  readonly text: string
  /** 1…9 for headings, absent otherwise. */
  readonly level?: number
}

/** Letters, figures and symbols can be spoken; a block of punctuation alone cannot. */
export function isSpeakable(text: string): boolean {
  return /[\p{L}\p{N}\p{S}]/u.test(text)
}

/** Words of a text as a producer counts them: pieces between spaces that hold a letter or figure. */
export function countWords(text: string): number {
  let words = 0
  for (const piece of text.split(/\s+/u)) if (/[\p{L}\p{N}]/u.test(piece)) words += 1
  return words
}
