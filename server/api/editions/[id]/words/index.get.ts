import { conflictsIn, ipaOf } from '#core/words/faults'
import type { WordsView } from '#shared/api'
import { loadEdition } from '#store/editions'
import { usesOfWords } from '#store/words'
import { idParam, route } from '../../../../utils/route'

/** The entries of the production's wordbook and the shared one, in the order in which they were written. */
export default route(async (event): Promise<WordsView> => {
  const loaded = await loadEdition(idParam(event))
  const uses = await usesOfWords(loaded)
  return {
    words: loaded.wordbooks.flatMap(({ entries, isShared }) => {
      const conflicts = conflictsIn(entries)
      return entries.map(entry => ({ entry, shared: isShared, ipa: ipaOf(entry), uses: uses.get(entry.id) ?? 0, conflict: conflicts.has(entry.id) }))
    }),
  }
})
