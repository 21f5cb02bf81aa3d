import { setTimeout as sleep } from 'node:timers/promises'
import PQueue from 'p-queue'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { PartSummary, ShelfEntry } from '#shared/api'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { bringUpToDate, isStaleSql, summariesOf, type SamplesOf, type SummariseElsewhere } from '#store/summaries'

const mostEntries = 200
/** A look waits for so long in all before it shows things as they were, ms. */
const patienceMs = 60
/** What was found out about a production is found out again when it is so old, ms. */
const recentMs = 5_000

interface ShelfRow extends Omit<ShelfEntry, 'parts' | 'deliveries' | 'problem' | 'pending'> {
  readonly revision: number
  readonly isStale: boolean
  /** The newest reading and its state. */
  readonly reading: string | null
  readonly deliveries: string
}

/**
 * Every edition, the one changed last first. One that is broken says so, and the others are as they are. One that is new or has
 * changed and is not put together at once is shown as it was before, and put together meanwhile: nobody waits for it.
 */
export async function shelf(database: Database, elsewhere: SummariseElsewhere, samplesOf?: SamplesOf): Promise<ShelfEntry[]> {
  const rows = await database.rows<ShelfRow>(
    'SELECT p.id AS "productionId", e.id AS "editionId", (SELECT count(*)::integer FROM editions o WHERE o.production_id = p.id AND o.removed_at IS NULL) AS editions, p.title, p.author, e.language, e.revision, to_char(p.changed_at AT TIME ZONE \'UTC\', \'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"\') AS "changedAt", '
    + `${isStaleSql} AS "isStale", `
    + '(SELECT r.ordinal || r.state FROM readings r WHERE r.edition_id = e.id ORDER BY r.ordinal DESC LIMIT 1) AS reading, '
    + '(SELECT count(*) FROM deliveries d WHERE d.edition_id = e.id AND d.state = \'done\') AS deliveries '
    + 'FROM productions p JOIN editions e ON e.production_id = p.id WHERE e.removed_at IS NULL ORDER BY p.changed_at DESC, e.id LIMIT $1', [mostEntries])
  const patience = sleep(patienceMs)
  const shown = new Set(rows.map(row => row.editionId))
  for (const known of [failures, kept]) for (const id of known.keys()) if (!shown.has(id)) known.delete(id)
  const broken = new Map<string, Problem>()
  const pending = new Set<string>()
  await Promise.all([
    lookAt(database, samplesOf, rows.filter(row => !row.isStale), pending, patience),
    ...rows.filter(row => row.isStale).map(async row => {
      const found = await putTogether(database, row, elsewhere, patience)
      if (found === 'pending') pending.add(row.editionId)
      if (found === null || found === 'pending') await lookAt(database, samplesOf, [row], pending, patience)
      else broken.set(row.editionId, found)
    }),
  ])
  return rows.map(({ productionId, editionId, editions, title, author, language, changedAt, deliveries }) => {
    const problem = broken.get(editionId) ?? null
    const parts = problem === null ? kept.get(editionId)?.parts ?? [] : []
    return { productionId, editionId, editions, title, author, language, changedAt, deliveries: Number(deliveries), parts, problem, pending: pending.has(editionId) }
  })
}

/** Productions that are put together at once. */
const updatesAtOnce = 5
/** They are put together a few at a time, whoever looks, and go on being so when nobody waits any more. */
const updates = new PQueue({ concurrency: updatesAtOnce })
/** A large one does not keep the others from their turn for longer than this, ms. */
const mostPlaceMs = 1000
const updating = new Set<string>()

interface Failure {
  readonly revision: number
  readonly foundMs: number
  readonly problem: Problem
}

/** Why productions could not be put together: it may have taken longer than anybody waited. */
const failures = new Map<string, Failure>()

/**
 * Puts an edition together. Resolves to why it is broken, or null; when that is not known within the patience, to what was found
 * last of this revision, or 'pending'.
 */
async function putTogether(
  database: Database, { editionId, revision }: ShelfRow, elsewhere: SummariseElsewhere, patience: Promise<unknown>,
): Promise<Problem | 'pending' | null> {
  const last = failures.get(editionId)
  const known = last?.revision === revision ? last : null
  const before = known?.problem ?? 'pending'
  // What has failed may succeed later: the disk was full, or the database away.
  const isRecent = known !== null && performance.now() - known.foundMs < recentMs
  // One that takes long is waited for once.
  if (isRecent || updating.has(editionId)) return before
  updating.add(editionId)
  let problem: Problem | null = null
  const update = updates.add(() => Promise.race([sleep(mostPlaceMs), brokenBy(database, editionId, elsewhere).then(found => {
    problem = found
    updating.delete(editionId)
    if (found === null) failures.delete(editionId)
    else failures.set(editionId, { revision, foundMs: performance.now(), problem: found })
  })]))
  return await outlasts(update, patience) ? before : problem
}

/** To ask how much is read of a production with so many utterances takes a while. */
const manyUtterances = 500
/** What is known of a production is shown as it is for no longer than this, ms. */
const oldMs = 60_000

interface Kept {
  /** What it was asked for: the revision and the reading; or that it was pending. */
  readonly mark: string
  readonly askedMs: number
  readonly parts: readonly PartSummary[]
  readonly isLarge: boolean
}

/** What the shelf has shown of each production. */
const kept = new Map<string, Kept>()
const asking = new Map<string, Promise<unknown>>()

/**
 * Keeps the parts of editions as they are now. What is not known of one within the patience is as it was before, and it becomes
 * pending. Only where nothing was known before, this waits.
 */
async function lookAt(database: Database, samplesOf: SamplesOf | undefined, rows: readonly ShelfRow[], pending: Set<string>, patience: Promise<unknown>): Promise<void> {
  const marks = new Map(rows.map(({ editionId, revision, reading }) => [editionId, pending.has(editionId) ? 'pending' : `${revision} ${reading}`]))
  /** Since this was asked; endless when it was not, ms. */
  const age = (id: string): number => kept.get(id)?.mark === marks.get(id) ? performance.now() - kept.get(id)!.askedMs : Infinity
  const ids = [...marks.keys()]
  const never = ids.filter(id => !kept.has(id))
  const known = ids.filter(id => kept.has(id) && !pending.has(id))
  const [large, small] = [known.filter(id => kept.get(id)!.isLarge), known.filter(id => !kept.get(id)!.isLarge)]
  await Promise.all([
    askParts(database, samplesOf, never, marks),
    outlasts(askParts(database, samplesOf, small, marks), patience),
    ...large.filter(id => age(id) >= recentMs).map(async id => {
      const ask = asking.get(id) ?? askParts(database, samplesOf, [id], marks).finally(() => { asking.delete(id) })
      asking.set(id, ask)
      if (age(id) >= oldMs) await outlasts(ask, patience)
      else ask.catch((error: unknown) => { log.warn({ err: error, edition: id }, 'How far a production is read could not be asked') })
    }),
  ])
  for (const id of known) if (age(id) >= oldMs) pending.add(id)
}

async function askParts(database: Database, samplesOf: SamplesOf | undefined, editionIds: readonly string[], marks: ReadonlyMap<string, string>): Promise<void> {
  if (editionIds.length === 0) return
  const askedMs = performance.now()
  for (const [id, summaries] of await summariesOf(database, editionIds, samplesOf)) {
    const parts = summaries.map(({ summary }) => summary)
    const isLarge = parts.reduce((sum, part) => sum + part.utterances, 0) > manyUtterances
    if (askedMs >= (kept.get(id)?.askedMs ?? 0)) kept.set(id, { mark: marks.get(id)!, askedMs, parts, isLarge })
  }
}

function outlasts(work: Promise<unknown>, patience: Promise<unknown>): Promise<boolean> {
  return Promise.race([work.then(() => false), patience.then(() => true)])
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
