import { writtenText } from '#core/script/content'
import type { ComparedRow, ComparisonView } from '#shared/api'
import { comparisonSchema, type ComparisonRequest } from '#shared/schemas'
import { loadScript } from '#store/divide'
import { compareWith } from '#store/new-version'
import { proposeVersion } from '../../../utils/new-version'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<ComparisonRequest>(comparisonSchema)

/** A new version of the manuscript beside the script; nothing is changed. */
export default route(async (event): Promise<ComparisonView> => {
  const id = idParam(event)
  const { manuscriptId } = await body(event)
  const { fileName, parts } = await proposeVersion(id, manuscriptId)
  const script = await loadScript(id)
  const { before, after, rows } = compareWith(script, parts)
  const labels = new Map(script.parts.map(part => [part.id, part.label]))
  const contents = new Map([...script.passages.values()].flat().map(row => [row.id, row.content]))
  const counts = { same: 0, moved: 0, edited: 0, new: 0, gone: 0 }
  for (const { state } of rows) counts[state] += 1
  return {
    fileName, counts, conflicts: rows.filter(row => row.conflict).length,
    rows: rows.flatMap(({ state, conflict, before: oldIndex, after: newIndex }): ComparedRow[] => {
      if (state === 'same') return []
      const old = oldIndex === null ? null : before[oldIndex]!
      const fresh = newIndex === null ? null : after[newIndex]!
      return [{
        state, conflict, passageId: old?.id ?? null,
        part: fresh === null ? labels.get(old!.part)! : parts[fresh.part]!.label,
        before: old?.imported ?? null, written: old === null ? null : writtenText(contents.get(old.id)!), after: fresh?.text ?? null,
      }]
    }),
  }
})
