import { conflictsIn, ipaOf } from '#core/words/faults'
import type { WordsView } from '#shared/api'
import { loadEdition } from '#store/editions'
import { editionBytes } from '#store/sizes'
import { idParam, route } from '../../../../utils/route'

/** The entries of the production's wordbook and the shared one, in the order in which they were written. */
export default route(async (event, { database, work }): Promise<WordsView> => {
  const editionId = idParam(event)
  const { wordbooks } = await loadEdition(editionId)
  const uses = await work.result('wordUses', { editionId }, await editionBytes(database, editionId))
  return {
    words: wordbooks.flatMap(({ entries, isShared }) => {
      const conflicts = conflictsIn(entries)
      return entries.map(entry => ({ entry, shared: isShared, ipa: ipaOf(entry), uses: uses[entry.id] ?? 0, conflict: conflicts.has(entry.id) }))
    }),
  }
})
