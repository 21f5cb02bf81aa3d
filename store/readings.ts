import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { speakingMs } from '#core/estimate/speaking-time'
import { fail, type Problem } from '#core/problem'
import { capabilitiesOf } from '#core/score/cast'
import type { CastUtterance, EngineRequest } from '#core/score/request'
import type { FaultView, ReadingStatus } from '#shared/api'
import type { TakeIndex } from '#takes/take'
import { engineCapabilities } from '#voices/registry'
import type { Database } from './database'
import { postEvent } from './events'
import { ReadingRow, ReadingUtteranceRow } from './models'
import type { ReadChunkJob } from './queue'
import { referencesOf, takesOfParts, type ScoredPart } from './score'

/** Utterances in one chunk at most, and about how much work of their engines, ms. */
export const chunkSize = 64
export const chunkWorkMs = 20_000

export interface StartedReading {
  readonly readingId: string
  readonly jobs: readonly ReadChunkJob[]
}

interface WantedUtterance {
  readonly partId: string
  readonly utterance: CastUtterance
  /** Of speech. */
  readonly estimatedMs: number
}

/** The utterances of parts that are heard in takes of their own which do not exist, each key once. */
async function wantedIn(index: TakeIndex, parts: readonly ScoredPart[]): Promise<WantedUtterance[]> {
  const takes = await index.find(takesOfParts(parts))
  const wanted = new Map<string, WantedUtterance>()
  for (const part of parts) {
    for (const { from, take, known, isOwn } of referencesOf(part, takes)) {
      const utterance = part.score.utterances[from]!
      if (known !== null || wanted.has(take)) continue
      // What somebody recorded or chose is not replaced by something else without being asked.
      if (!isOwn || take !== utterance.key) fail('take-lost', `The audio that was chosen for “${utterance.text.slice(0, 60)}” is missing or damaged on the disk. Bring it in again, or take the choice back.`, part.row.label)
      wanted.set(take, { partId: part.row.id, utterance, estimatedMs: speakingMs(utterance.text, utterance.request.wordsPerMinute) })
    }
  }
  return [...wanted.values()]
}

/** Numbers of the chunks of utterances, one after the other: a chunk ends where it has as many utterances, or as much work, as one may have. */
export function chunksOf(utterances: readonly Pick<WantedUtterance, 'estimatedMs' | 'utterance'>[], engines = engineCapabilities()): number[] {
  let [chunk, count, workMs] = [0, 0, 0]
  return utterances.map(({ estimatedMs, utterance }) => {
    const { work } = capabilitiesOf(engines, utterance.request)
    const ownMs = work.eachMs + work.perSpokenSecondMs * estimatedMs / 1000
    if (count > 0 && (count === chunkSize || workMs + ownMs > chunkWorkMs)) [chunk, count, workMs] = [chunk + 1, 0, 0]
    count += 1
    workMs += ownMs
    return chunk
  })
}

/** Notes a reading of all that is missing in these parts. Throws a problem when nothing is missing or one is running. */
export async function startReading(database: Database, index: TakeIndex, editionId: string, parts: readonly ScoredPart[]): Promise<StartedReading> {
  const readingId = uuidv7()
  const wanted = await wantedIn(index, parts)
  if (wanted.length === 0) fail('nothing-to-read', 'Everything is read already. Change the text, the rests or the voice to read again.')
  const chunks = chunksOf(wanted)
  const rows = wanted.map(({ partId, utterance: { key, text, request }, estimatedMs }, ordinal) => ({ readingId, key, chunk: chunks[ordinal]!, partId, text, request, estimatedMs }))
  await database.sequelize.transaction(async transaction => {
    await lockReadings(database, editionId, readingId, transaction)
    await ReadingRow.create({ id: readingId, editionId }, { transaction })
    for (let from = 0; from < rows.length; from += 1000) await ReadingUtteranceRow.bulkCreate(rows.slice(from, from + 1000), { transaction })
    await postEvent(database, editionId, { kind: 'reading', readingId }, transaction)
  })
  return { readingId, jobs: Array.from({ length: chunks.at(-1)! + 1 }, (_, chunk) => ({ readingId, chunk })) }
}

export interface ChunkUtterance {
  readonly purpose: { readonly editionId: string, readonly partId: string }
  readonly key: string
  readonly request: EngineRequest
  readonly text: string
}

/** What a chunk still has to make; null when its reading is over. */
export async function openChunk(database: Database, { readingId, chunk }: ReadChunkJob): Promise<ChunkUtterance[] | null> {
  if (!await isRunning(database, readingId)) return null
  return database.rows<ChunkUtterance>(
    'SELECT u.key, u.request, u.text, json_build_object(\'editionId\', r.edition_id, \'partId\', u.part_id) AS purpose FROM reading_utterances u JOIN readings r ON r.id = u.reading_id LEFT JOIN takes t ON t.id = u.key '
    + 'WHERE u.reading_id = $1 AND u.chunk = $2 AND t.id IS NULL AND u.fault IS NULL', [readingId, chunk])
}

export async function isRunning(database: Database, readingId: string): Promise<boolean> {
  const rows = await database.rows('SELECT 1 AS one FROM readings WHERE id = $1 AND state = \'running\'', [readingId])
  return rows.length > 0
}

export async function noteFault(database: Database, readingId: string, key: string, problem: Problem): Promise<void> {
  await database.rows('UPDATE reading_utterances SET fault = $3 WHERE reading_id = $1 AND key = $2 RETURNING key', [readingId, key, JSON.stringify(problem)])
}

/** Tells the watchers how far a reading is, and ends it when every utterance is made or at fault. */
export async function noteProgress(database: Database, readingId: string): Promise<void> {
  const ended = await database.rows<{ editionId: string }>(
    'UPDATE readings SET state = \'done\', ended_at = now() WHERE id = $1 AND state = \'running\' AND NOT EXISTS ('
    + 'SELECT 1 FROM reading_utterances u LEFT JOIN takes t ON t.id = u.key '
    + 'WHERE u.reading_id = $1 AND t.id IS NULL AND u.fault IS NULL) RETURNING edition_id AS "editionId"', [readingId])
  const reading = ended[0] ?? (await ReadingRow.findByPk(readingId))
  if (reading !== null) await postEvent(database, reading.editionId, { kind: 'reading', readingId })
}

/** Ends a reading after the utterances in flight, because the user or a problem wants it; what is made stays. Says whether it was running. */
export async function stopReading(database: Database, readingId: string, problem: Problem | null = null): Promise<boolean> {
  const [stopped] = await database.rows<{ editionId: string }>(
    'UPDATE readings SET state = \'stopped\', ended_at = now(), problem = $2 WHERE id = $1 AND state = \'running\' RETURNING edition_id AS "editionId"',
    [readingId, problem === null ? null : JSON.stringify(problem)])
  if (stopped !== undefined) await postEvent(database, stopped.editionId, { kind: 'reading', readingId })
  return stopped !== undefined
}

/** Takes up faults again: those with the given keys, or all. Gives the chunks to be read. */
export async function retryFaults(database: Database, readingId: string, keys: readonly string[] | null): Promise<ReadChunkJob[]> {
  return database.sequelize.transaction(async transaction => {
    const reading = await ReadingRow.findByPk(readingId, { transaction })
    if (reading === null) fail('not-found', 'This reading is no longer here. Load the page again.')
    await lockReadings(database, reading.editionId, readingId, transaction)
    const rows = await database.rows<{ chunk: number }>(
      'UPDATE reading_utterances SET fault = NULL WHERE reading_id = $1 AND fault IS NOT NULL AND ($2::text[] IS NULL OR key = ANY($2)) RETURNING chunk',
      [readingId, keys], transaction)
    if (rows.length === 0) fail('not-found', 'This sentence is no longer among the faults. Load the page again.')
    await reading.update({ state: 'running', endedAt: null, problem: null }, { transaction })
    await postEvent(database, reading.editionId, { kind: 'reading', readingId }, transaction)
    return [...new Set(rows.map(row => row.chunk))].map(chunk => ({ readingId, chunk }))
  })
}

/** One reading of an edition runs at a time. Throws a problem when another one does. */
async function lockReadings(database: Database, editionId: string, readingId: string, transaction: Transaction): Promise<void> {
  await database.rows('SELECT pg_advisory_xact_lock(hashtext($1))::text AS locked', [editionId], transaction)
  const running = await ReadingRow.findOne({ where: { editionId, state: 'running' }, transaction })
  if (running !== null && running.id !== readingId) fail('reading-running', 'A reading of this production is running. Wait for it, or stop it first.')
}

/** The chunks of running readings that still lack something; running one twice does no harm. */
export async function unfinishedChunks(database: Database): Promise<ReadChunkJob[]> {
  return database.rows<ReadChunkJob>(
    'SELECT DISTINCT u.reading_id AS "readingId", u.chunk FROM reading_utterances u JOIN readings r ON r.id = u.reading_id '
    + 'LEFT JOIN takes t ON t.id = u.key WHERE r.state = \'running\' AND t.id IS NULL AND u.fault IS NULL ORDER BY 1, 2')
}

/** The newest reading of an edition. */
export async function readingStatus(database: Database, editionId: string): Promise<ReadingStatus | null> {
  const [row] = await database.rows<{
    id: string, state: ReadingStatus['state'], problem: Problem | null, total: string, made: string, faults: string, totalMs: number, madeMs: number, elapsedMs: number
  }>(
    'SELECT r.id, r.state, r.problem, count(*) AS total, count(t.id) AS made, count(u.fault) AS faults, sum(u.estimated_ms) AS "totalMs", '
    + 'coalesce(sum(u.estimated_ms) FILTER (WHERE t.id IS NOT NULL), 0) AS "madeMs", '
    + 'greatest(0, extract(epoch FROM coalesce(r.ended_at, now()) - r.created_at) * 1000)::double precision AS "elapsedMs" '
    + 'FROM readings r JOIN reading_utterances u ON u.reading_id = r.id LEFT JOIN takes t ON t.id = u.key '
    + 'WHERE r.id = (SELECT id FROM readings WHERE edition_id = $1 ORDER BY ordinal DESC LIMIT 1) GROUP BY r.id', [editionId])
  if (row === undefined) return null
  const parts = row.state !== 'running' ? [] : await database.rows<{ id: string, total: number, made: number }>(
    'SELECT u.part_id AS id, count(*)::integer AS total, count(t.id)::integer AS made FROM reading_utterances u LEFT JOIN takes t ON t.id = u.key WHERE u.reading_id = $1 GROUP BY u.part_id', [row.id])
  const leftMs = row.state === 'running' && row.madeMs > 0 ? row.elapsedMs * (row.totalMs - row.madeMs) / row.madeMs : null
  return {
    id: row.id, state: row.state, problem: row.problem, total: Number(row.total), made: Number(row.made), faults: Number(row.faults),
    totalMs: row.totalMs, madeMs: row.madeMs, elapsedMs: row.elapsedMs, leftMs, parts: Object.fromEntries(parts.map(({ id, ...figures }) => [id, figures])),
  }
}

/** What readings of an edition were asked for, as far as it matters to the state of its parts. */
export interface Asked {
  /** Parts that a reading took in, and whether one that does is running. */
  readonly parts: ReadonlyMap<string, { readonly running: boolean }>
  /** Those of the given keys that a reading was to make. */
  readonly keys: ReadonlySet<string>
}

export async function askedFor(database: Database, editionId: string, keys: readonly string[]): Promise<Asked> {
  const [parts, known] = await Promise.all([
    database.rows<{ partId: string, running: boolean }>(
      'SELECT u.part_id AS "partId", bool_or(r.state = \'running\') AS running FROM reading_utterances u JOIN readings r ON r.id = u.reading_id '
      + 'WHERE r.edition_id = $1 GROUP BY u.part_id', [editionId]),
    database.rows<{ key: string }>(
      'SELECT DISTINCT u.key FROM reading_utterances u JOIN readings r ON r.id = u.reading_id WHERE r.edition_id = $1 AND u.key = ANY($2)', [editionId, [...keys]]),
  ])
  return { parts: new Map(parts.map(row => [row.partId, row])), keys: new Set(known.map(row => row.key)) }
}

/** Most faults that are listed at once. */
const listedFaults = 500

/** What a reading could not read and nothing has read since, as far as it is among these keys, in their order. */
export async function faultsOf(database: Database, readingId: string, keys: readonly string[]): Promise<FaultView[]> {
  const places = new Map(keys.map((key, place) => [key, place]))
  const faults = await database.rows<FaultView>(
    'SELECT u.key, u.part_id AS "partId", u.text, p.label AS "partLabel", u.fault AS problem FROM reading_utterances u JOIN parts p ON p.id = u.part_id '
    + 'LEFT JOIN takes t ON t.id = u.key '
    + `WHERE u.reading_id = $1 AND u.fault IS NOT NULL AND t.id IS NULL ORDER BY p.rank, u.chunk LIMIT ${listedFaults}`, [readingId])
  return faults.filter(fault => places.has(fault.key)).sort((a, b) => places.get(a.key)! - places.get(b.key)!)
}

/**
 * Removes what earlier readings were to make and is made. What tells apart the states of parts stays: that a reading took a part in, and what it was to make that is missing.
 * The newest reading of an edition stays as it is.
 */
export async function pruneReadings(database: Database): Promise<void> {
  await database.rows(
    'DELETE FROM reading_utterances u USING readings r WHERE r.id = u.reading_id AND r.state <> \'running\' '
    + 'AND r.ordinal < (SELECT max(n.ordinal) FROM readings n WHERE n.edition_id = r.edition_id) '
    + 'AND (NOT EXISTS (SELECT 1 FROM parts p WHERE p.id = u.part_id) OR EXISTS (SELECT 1 FROM takes t WHERE t.id = u.key) '
    + 'AND u.key > (SELECT min(v.key) FROM reading_utterances v WHERE v.reading_id = u.reading_id AND v.part_id = u.part_id)) RETURNING u.key')
  await database.rows(
    'DELETE FROM readings r WHERE r.state <> \'running\' AND r.ordinal < (SELECT max(n.ordinal) FROM readings n WHERE n.edition_id = r.edition_id) '
    + 'AND NOT EXISTS (SELECT 1 FROM reading_utterances u WHERE u.reading_id = r.id) RETURNING id')
}
