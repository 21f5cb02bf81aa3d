import { spokenOf } from '#core/score/compile'
import { count } from '#core/tally'
import { breather } from './breathe'
import { contextOf, type LoadedEdition } from './editions'
import { scriptOf } from './score'

/** At how many places of a script each entry of its wordbooks counts, by its id. */
export async function usesOfWords(loaded: LoadedEdition): Promise<Map<string, number>> {
  const context = contextOf(loaded)
  const uses = new Map<string, number>()
  const breathe = breather()
  for (const part of (await scriptOf(loaded)).parts) {
    for (const passage of part.passages) {
      for (const { by } of spokenOf(passage, { ...context, partLabel: part.label }).steps) if ('word' in by) count(uses, by.word)
      await breathe()
    }
  }
  return uses
}
