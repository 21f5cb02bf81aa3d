import { fail } from '#core/problem'
import { PartRow } from '#store/models'
import { scoreEdition, type ScoredEdition, type ScoredPart } from '#store/score'

/** One part, compiled. Throws a problem when there is no such part. */
export async function scorePart(partId: string): Promise<{ scored: ScoredEdition, part: ScoredPart }> {
  const row = await PartRow.findByPk(partId, { attributes: ['editionId'] })
  const scored = row === null ? null : await scoreEdition(row.editionId, partId)
  const part = scored?.parts[0]
  if (scored === null || part === undefined) fail('not-found', 'This part is no longer in the script. Load the page again.')
  return { scored, part }
}
