import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { PartSummary, ShelfEntry } from '#shared/api'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { bringUpToDate, summariesOf, type SummariseElsewhere } from '#store/summaries'

const mostEntries = 200

interface ShelfRow extends Omit<ShelfEntry, 'parts' | 'deliveries' | 'problem'> {
  readonly deliveries: string
}

/** Every edition, the one changed last first. One that is broken says so, and the others are as they are. */
export async function shelf(database: Database, elsewhere: SummariseElsewhere): Promise<ShelfEntry[]> {
  const rows = await database.rows<ShelfRow>(
    'SELECT e.id AS "editionId", p.title, p.author, e.language, to_char(p.changed_at AT TIME ZONE \'UTC\', \'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"\') AS "changedAt", '
    + '(SELECT count(*) FROM deliveries d WHERE d.edition_id = e.id AND d.state = \'done\') AS deliveries '
    + 'FROM productions p JOIN editions e ON e.production_id = p.id ORDER BY p.changed_at DESC, e.id LIMIT $1', [mostEntries])
  const broken = new Map<string, Problem>()
  for (const { editionId } of rows) {
    const problem = await brokenBy(database, editionId, elsewhere)
    if (problem !== null) broken.set(editionId, problem)
  }
  const parts = await summariesOf(database, rows.map(row => row.editionId).filter(id => !broken.has(id)))
  return rows.map(row => ({ ...row, deliveries: Number(row.deliveries), parts: (parts.get(row.editionId) ?? []).map(shown), problem: broken.get(row.editionId) ?? null }))
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

function shown({ sound: _, samples: __, sampleRate: ___, ...summary }: PartSummary & { readonly sound: string, readonly samples: number, readonly sampleRate: number }): PartSummary {
  return summary
}
