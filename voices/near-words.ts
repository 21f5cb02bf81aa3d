import { distance } from 'fastest-levenshtein'
import { primaryLanguage } from '#core/language/abbreviations'
import { englishWords, suggestions } from './known-words'

/** Shorter words look like too many others. */
const leastLetters = 4
/** A longer word may differ in one letter more. */
const longWord = 6

let words: readonly string[] | null = null

/** Words of a language (BCP 47) that look like one that is not among them, the nearest first: by the CMU Pronouncing Dictionary, or by the spelling dictionary of the language. */
export async function nearWords(language: string, word: string): Promise<readonly string[]> {
  const own = word.toLowerCase()
  if ([...own].length < leastLetters || !/^[\p{L}\p{M}’']+$/u.test(own)) return []
  if (primaryLanguage(language) !== 'en') return suggestions(language, word)
  words ??= englishWords().filter(each => /^[a-z]{3,}$/u.test(each))
  const farthest = own.length >= longWord ? 2 : 1
  return words
    .filter(each => each[0] === own[0] && Math.abs(each.length - own.length) <= farthest && each !== own)
    .map(each => ({ each, apart: distance(each, own) })).filter(({ apart }) => apart <= farthest)
    .sort((a, b) => a.apart - b.apart || commonEnd(b.each, own) - commonEnd(a.each, own))
    .map(({ each }) => each)
}

/** Letters at the ends of two words that are the same. */
function commonEnd(a: string, b: string): number {
  let common = 0
  while (common < a.length && common < b.length && a.at(-1 - common) === b.at(-1 - common)) common += 1
  return common
}
