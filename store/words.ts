import { spokenOf } from '#core/score/compile'
import { count } from '#core/tally'
import { contextOf, loadEdition } from './editions'
import { loadScriptOf } from './score'

/** At how many places of a script each entry of its wordbooks counts, by its id. */
export async function usesOfWords(editionId: string): Promise<Map<string, number>> {
  const context = contextOf(await loadEdition(editionId))
  const uses = new Map<string, number>()
  for (const part of (await loadScriptOf(editionId)).parts) {
    for (const passage of part.passages) {
      for (const { by } of spokenOf(passage, { ...context, partLabel: part.label }).steps) if ('word' in by) count(uses, by.word)
    }
  }
  return uses
}
