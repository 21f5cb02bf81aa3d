import { defaultChoices, type Choices } from '#core/manuscript/choices'
import type { Manuscript } from '#core/manuscript/manuscript'
import { propose, type ProposedPart } from '#core/manuscript/structure'
import { loadEdition } from '#store/editions'
import { findReadManuscript } from './proposal'

/**
 * A new version of an edition's manuscript, by the choices made for the first one as far as they do not name single
 * blocks, which are others now.
 */
export async function proposeVersion(editionId: string, manuscriptId: string): Promise<{ readonly fileName: string, readonly parts: readonly ProposedPart[], readonly choices: Choices }> {
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
