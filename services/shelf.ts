import { setTimeout as sleep } from 'node:timers/promises'
import PQueue from 'p-queue'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { PartSummary, ShelfEntry } from '#shared/api'
import type { Database } from '#store/database'
import { log } from '#store/log'
import { bringUpToDate, isStaleSql, summariesOf, type SummariseElsewhere } from '#store/summaries'

const mostEntries = 200
/** Productions that are brought up to date at once. */
const updatesAtOnce = 5

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
export async function shelf(database: Database, elsewhere: SummariseElsewhere): Promise<ShelfEntry[]> {
  const rows = await database.rows<ShelfRow>(
    'SELECT e.id AS "editionId", p.title, p.author, e.language, e.revision, to_char(p.changed_at AT TIME ZONE \'UTC\', \'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"\') AS "changedAt", '
    + `${isStaleSql} AS "isStale", `
    + '(SELECT r.ordinal || r.state FROM readings r WHERE r.edition_id = e.id ORDER BY r.ordinal DESC LIMIT 1) AS reading, '
    + '(SELECT count(*) FROM deliveries d WHERE d.edition_id = e.id AND d.state = \'done\') AS deliveries '
    + 'FROM productions p JOIN editions e ON e.production_id = p.id ORDER BY p.changed_at DESC, e.id LIMIT $1', [mostEntries])
  const patience = sleep(patienceMs)
  const shown = new Set(rows.map(row => row.editionId))
  for (const id of failures.keys()) if (!shown.has(id)) failures.delete(id)
  const broken = new Map<string, Problem>()
  const pending = new Set<string>()
  await Promise.all(rows.filter(row => row.isStale).map(async row => {
    const found = await putTogether(database, row, elsewhere, patience)
    if (found === 'pending') pending.add(row.editionId)
    else if (found !== null) broken.set(row.editionId, found)
  }))
  const parts = await partsOf(database, rows.filter(row => !broken.has(row.editionId)), pending, patience)
  return rows.map(({ editionId, title, author, language, changedAt, deliveries }) => ({
    editionId, title, author, language, changedAt, deliveries: Number(deliveries),
    parts: parts.get(editionId) ?? [], problem: broken.get(editionId) ?? null, pending: pending.has(editionId),
  }))
}

/** Productions are put together a few at a time, whoever looks, and go on being so when nobody waits any more. */
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

/** Puts an edition together. Resolves to why it is broken, or null; 'pending' when it is not known within the patience. */
async function putTogether(
  database: Database, { editionId, revision }: ShelfRow, elsewhere: SummariseElsewhere, patience: Promise<unknown>,
): Promise<Problem | 'pending' | null> {
  const failure = failures.get(editionId)
  if (failure?.revision === revision && performance.now() - failure.foundMs < oldMs) return failure.problem
  // One that takes long is waited for once.
  if (updating.has(editionId)) return 'pending'
  updating.add(editionId)
  let problem: Problem | null = null
  const update = updates.add(() => Promise.race([sleep(mostPlaceMs), brokenBy(database, editionId, elsewhere).then(found => {
    problem = found
    updating.delete(editionId)
    if (found === null) failures.delete(editionId)
    else failures.set(editionId, { revision, foundMs: performance.now(), problem: found })
  })]))
  return await outlasts(update, patience) ? 'pending' : problem
}

/** What the shelf shows of a production with so many utterances is kept: to ask how much of it is read takes a while. */
const manyUtterances = 500
/** It is asked again, without anybody waiting for it, when it is so old; it is waited for when it is older than that, or of something else, ms. */
const recentMs = 5_000
const oldMs = 60_000

interface Kept {
  /** What it was asked for: the revision and the reading; or that it was pending. */
  readonly mark: string
  readonly askedMs: number
  readonly parts: readonly PartSummary[]
}

const kept = new Map<string, Kept>()
const asking = new Map<string, Promise<unknown>>()

/** The parts of editions. Those that are kept and not known at once are as they were before, and become pending; so are those that are pending already. */
async function partsOf(database: Database, rows: readonly ShelfRow[], pending: Set<string>, patience: Promise<unknown>): Promise<ReadonlyMap<string, readonly PartSummary[]>> {
  const marks = new Map(rows.map(({ editionId, revision, reading }) => [editionId, pending.has(editionId) ? 'pending' : `${revision} ${reading}`]))
  for (const id of kept.keys()) if (!marks.has(id)) kept.delete(id)
  // Whoever asks meanwhile may have seen that one is gone.
  const known = new Map(kept)
  const again = [...known].map(([id, own]) => askAgain(database, id, own, marks, pending, patience))
  const [asked] = await Promise.all([askParts(database, [...marks.keys()].filter(id => !known.has(id)), marks), ...again])
  return new Map([...marks.keys()].map(id => [id, asked.get(id) ?? (kept.get(id) ?? known.get(id))!.parts]))
}

async function askAgain(
  database: Database, id: string, { mark, askedMs }: Kept, marks: ReadonlyMap<string, string>, pending: Set<string>, patience: Promise<unknown>,
): Promise<void> {
  const age = mark === marks.get(id) ? performance.now() - askedMs : Infinity
  if (age < recentMs || pending.has(id)) return
  const ask = asking.get(id) ?? askParts(database, [id], marks).finally(() => { asking.delete(id) })
  asking.set(id, ask)
  if (age < oldMs) ask.catch((error: unknown) => { log.warn({ err: error, edition: id }, 'How far a production is read could not be asked') })
  // What somebody asked for before the change is not it.
  else if (await outlasts(ask, patience) || kept.get(id)?.mark !== marks.get(id)) pending.add(id)
}

async function askParts(database: Database, editionIds: readonly string[], marks: ReadonlyMap<string, string>): Promise<Map<string, readonly PartSummary[]>> {
  const askedMs = performance.now()
  const summaries = await summariesOf(database, editionIds)
  const asked = new Map([...summaries].map(([id, parts]) => [id, parts.map(({ summary }) => summary)]))
  for (const [id, parts] of asked) {
    if (kept.has(id) || parts.reduce((sum, part) => sum + part.utterances, 0) > manyUtterances) kept.set(id, { mark: marks.get(id)!, askedMs, parts })
  }
  return asked
}

/** What is new or has changed is waited for so long in all before it is shown as it was, ms. */
const patienceMs = 60

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
