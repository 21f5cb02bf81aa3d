import { defaultChoices, type Choices } from '#core/manuscript/choices'
import type { Manuscript } from '#core/manuscript/manuscript'
import { propose, type ProposedPart } from '#core/manuscript/structure'
import { writtenText } from '#core/script/content'
import type { ComparedRow, ComparisonView } from '#shared/api'
import type { VersionRequest } from '#shared/schemas'
import { loadScript } from '#store/divide'
import { loadEdition } from '#store/editions'
import { compareWith, takeOverVersion } from '#store/new-version'
import { findReadManuscript } from './proposals'
import type { Place } from './place'

/**
 * A new version of an edition's manuscript, by the choices made for the first one as far as they do not name single
 * blocks, which are others now.
 */
async function proposeVersion(editionId: string, manuscriptId: string): Promise<{ readonly fileName: string, readonly parts: readonly ProposedPart[], readonly choices: Choices }> {
  const { edition } = await loadEdition(editionId)
  const { row, manuscript } = await findReadManuscript(manuscriptId)
  const choices = carriedOver(manuscript, edition.choices ?? null)
  return { fileName: row.fileName, parts: propose(manuscript, choices).parts, choices }
}

function carriedOver(manuscript: Manuscript, chosen: Choices | null): Choices {
  const defaults = defaultChoices(manuscript)
  if (chosen === null) return defaults
  const { split, ...rest } = { ...defaults, ...chosen }
  return { ...rest, split: split.by === 'unit' && manuscript.units.length === 0 ? defaults.split : split, restored: [], begins: [], joins: [], labels: {}, included: {} }
}

/** A new version of the manuscript beside the script; nothing is changed. */
export async function comparison(_: Place, { editionId, manuscriptId }: { readonly editionId: string, readonly manuscriptId: string }): Promise<ComparisonView> {
  const { fileName, parts } = await proposeVersion(editionId, manuscriptId)
  const script = await loadScript(editionId)
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
}

/** Takes a new version of the manuscript over. */
export async function takeOver({ database }: Place, { editionId, manuscriptId, window, keep }: VersionRequest & { readonly editionId: string }): Promise<Record<string, never>> {
  const { parts, choices } = await proposeVersion(editionId, manuscriptId)
  await takeOverVersion(database, editionId, window, { manuscriptId, parts, choices, keep: new Set(keep) })
  return {}
}
