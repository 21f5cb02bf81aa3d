import { fail } from '#core/problem'
import type { Utterance } from '#core/score/compile'
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

/** An utterance of a part by its key. Throws a problem when the script has changed since. */
export async function findUtterance(partId: string, key: string): Promise<{ part: ScoredPart, utterance: Utterance }> {
  const { part } = await scorePart(partId)
  const utterance = part.score.utterances.find(candidate => candidate.key === key)
  if (utterance === undefined) fail('not-found', 'This sentence has changed. Load the page again.')
  return { part, utterance }
}
