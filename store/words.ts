import { spokenForm } from '#core/score/spoken'
import { count } from '#core/tally'
import { wordFinder } from '#core/words/find-words'
import type { Wordbook } from '#core/words/wordbook'
import { loadScriptOf } from './score'

/** At how many places of a script each entry counts, by its id. */
export async function usesOfWords(editionId: string, wordbooks: readonly Wordbook[]): Promise<Map<string, number>> {
  const { parts, language } = await loadScriptOf(editionId)
  const findWords = wordFinder(wordbooks)
  const uses = new Map<string, number>()
  for (const passage of parts.flatMap(part => part.passages)) {
    for (const { by } of spokenForm(passage.content, passage.language ?? language, findWords).groups) {
      if (by !== undefined && 'word' in by) count(uses, by.word)
    }
  }
  return uses
}
