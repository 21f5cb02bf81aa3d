import { writtenText } from '../script/content'
import type { Part } from '../script/script'

/** Distinct words of a script as they are written, for a dictionary and a voice; `names` are those that are written with a capital within sentences, and never without. */
export interface ComparedWords {
  readonly words: readonly string[]
  readonly names: readonly string[]
}

/** What a dictionary and a voice know about words. */
export interface KnownWords {
  /** Words that no dictionary of the language has; null where the page has one itself, or there is none. */
  readonly unknown: readonly string[] | null
  readonly hasDictionary: boolean
  /** Words that the voice says otherwise than the dictionary, with both in IPA. */
  readonly otherwise: readonly { readonly word: string, readonly said: string, readonly expected: string }[]
  /** Words that the voice spells out, letter by letter. */
  readonly spelt: readonly string[]
}

/** Longest word that is compared, and so many at most. */
const longestWord = 40
const mostWords = 60_000

/** The words of the passages that are in a language (BCP 47), but for those in capitals. */
export function comparedWords(parts: readonly Part[], language: string): ComparedWords {
  const seen = new Set<string>()
  const inside = new Set<string>()
  for (const part of parts) {
    for (const passage of part.included ? part.passages : []) {
      if (passage.language !== undefined && passage.language !== language) continue
      const text = writtenText(passage.content)
      // Endings behind an apostrophe (we’ll) are no words.
      for (const { 0: word } of text.matchAll(/(?<![’'\p{L}\p{M}])[\p{L}\p{M}]+|(?<=[’'])[\p{L}\p{M}]{4,}/gu)) seen.add(word)
      for (const { 0: word } of text.matchAll(/(?<=\p{Ll}[,;]? )\p{Lu}\p{Ll}[\p{L}\p{M}]*/gu)) inside.add(word)
    }
  }
  const asked = [...seen].filter(word => word.length > 1 && word.length <= longestWord && !/^\p{Lu}{2,}$/u.test(word)).slice(0, mostWords)
  const isName = (word: string): boolean => inside.has(word) && !seen.has(word.toLowerCase())
  return { words: asked.filter(word => !isName(word)), names: asked.filter(isName) }
}
