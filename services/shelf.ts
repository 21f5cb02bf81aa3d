import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { PartSummary, ShelfEntry } from '#shared/api'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { editionBytes } from '#store/sizes'
import { bringUpToDate, staleEditions, summariesOf, type SummariseElsewhere } from '#store/summaries'
import { mostHere } from './work'

const mostEntries = 200

interface ShelfRow extends Omit<ShelfEntry, 'parts' | 'deliveries' | 'problem' | 'pending'> {
  readonly revision: number
  readonly deliveries: string
}

/**
 * Every edition, the one changed last first. One that is broken says so, and the others are as they are. A large one that has changed is shown as it was before, and is put together
 * meanwhile: nobody waits for it.
 */
export async function shelf(database: Database, elsewhere: SummariseElsewhere): Promise<ShelfEntry[]> {
  const rows = await database.rows<ShelfRow>(
    'SELECT e.id AS "editionId", p.title, p.author, e.language, e.revision, to_char(p.changed_at AT TIME ZONE \'UTC\', \'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"\') AS "changedAt", '
    + '(SELECT count(*) FROM deliveries d WHERE d.edition_id = e.id AND d.state = \'done\') AS deliveries '
    + 'FROM productions p JOIN editions e ON e.production_id = p.id ORDER BY p.changed_at DESC, e.id LIMIT $1', [mostEntries])
  const stale = await staleEditions(database)
  const broken = new Map<string, Problem>()
  const pending = new Set<string>()
  await Promise.all(rows.filter(row => stale.has(row.editionId)).map(async ({ editionId }) => {
    const update = brokenBy(database, editionId, elsewhere)
    if (await editionBytes(database, editionId) > mostHere && await isSlow(update)) {
      pending.add(editionId)
      return
    }
    const problem = await update
    if (problem !== null) broken.set(editionId, problem)
  }))
  const parts = await recentSummaries(database, rows.filter(row => !broken.has(row.editionId)), pending)
  return rows.map(({ revision: _, ...row }) => ({
    ...row, deliveries: Number(row.deliveries), parts: parts.get(row.editionId) ?? [], problem: broken.get(row.editionId) ?? null, pending: pending.has(row.editionId),
  }))
}

/** How far a production with so many utterances has been read is asked once in so long, ms: the shelf shows it as a bar. */
const manyUtterances = 5_000
const recentMs = 10_000
const recent = new Map<string, { readonly revision: number, readonly pending: boolean, readonly askedMs: number, readonly parts: readonly PartSummary[] }>()

/** The parts of editions; those of one that is pending are as they were before. */
async function recentSummaries(database: Database, rows: readonly ShelfRow[], pending: ReadonlySet<string>): Promise<Map<string, readonly PartSummary[]>> {
  const nowMs = performance.now()
  const found = new Map<string, readonly PartSummary[]>()
  for (const { editionId, revision } of rows) {
    const known = recent.get(editionId)
    if (known?.revision === revision && known.pending === pending.has(editionId) && nowMs - known.askedMs < recentMs) found.set(editionId, known.parts)
  }
  const asked = rows.filter(row => !found.has(row.editionId))
  const summaries = await summariesOf(database, asked.map(row => row.editionId))
  for (const id of recent.keys()) if (!found.has(id)) recent.delete(id)
  for (const { editionId, revision } of asked) {
    const parts = summaries.get(editionId)!.map(({ summary }) => summary)
    found.set(editionId, parts)
    if (parts.reduce((sum, part) => sum + part.utterances, 0) > manyUtterances) recent.set(editionId, { revision, pending: pending.has(editionId), askedMs: nowMs, parts })
  }
  return found
}

/** A large production is waited for so long, ms: a change of one of its parts does not take longer. */
const patienceMs = 100

function isSlow(update: Promise<unknown>): Promise<boolean> {
  return Promise.race([update.then(() => false), new Promise<boolean>(resolve => { setTimeout(() => resolve(true), patienceMs) })])
}

/** Why an edition cannot be put together; null when it can. */
export async function brokenBy(database: Database, editionId: string, elsewhere: SummariseElsewhere): Promise<Problem | null> {
  try {
    await bringUpToDate(database, editionId, elsewhere)
    return null
  } catch (error) {
    const known = asProblem(error)
    if (known instanceof ProblemError) return known.problem
    log.error({ err: error, edition: editionId }, 'A production cannot be put together')
    return { code: 'production-broken', message: 'This production cannot be put together because of a fault in this program, which is in the log. Its text is kept.' }
  }
}
