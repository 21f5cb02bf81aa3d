import { basename } from 'node:path'
import type { Transaction } from 'sequelize'
import { fail, type Problem } from '#core/problem'
import { takeId } from '#core/takes/take'
import type { StorageKind, StorageKindId, StorageView } from '#shared/api'
import { settledMs, type Packs } from '#takes/packs'
import type { FileStorage, StoredFile } from '#takes/storage'
import type { TakeRecord } from '#takes/take'
import type { Database } from './database'
import { dropDelivery } from './deliveries'
import { deliveryFolder, folders, manuscriptFile } from './folders'
import { freePieces } from './pieces'
import { bringUpToDate } from './summaries'
import { takesIn } from './take-index'

/** A document that was brought in and not accepted may go after this. */
const acceptedWithinHours = 24

/** Finished deliveries of an edition that always stay. */
export const leastKept = 1

/** Most things that a preview names. */
const named = 12

/** Brings an edition up to date, or says why it cannot be put together. */
type BrokenBy = (editionId: string) => Promise<Problem | null>

const bringing = (database: Database): BrokenBy => async editionId => {
  await bringUpToDate(database, editionId)
  return null
}

type Going = NonNullable<StorageKind['freeable']>

interface TakeSize {
  readonly id: string
  readonly bytes: number
}

/** What uses the storage, and what of it could go; of deliveries all but the newest so many of each edition. */
export async function storageView(database: Database, storage: FileStorage, keptDeliveries = leastKept, brokenBy: BrokenBy = bringing(database)): Promise<StorageView> {
  const freeBytes = await storage.room()
  const problem = await obstacle(database, brokenBy)
  const freeableTakes = problem === null ? goingTakes(await unusedTakes(database)) : null
  const [size] = await database.rows<{ bytes: string }>('SELECT pg_database_size(current_database()) AS bytes')
  const old = await olderDeliveries(database, keptDeliveries)
  const unaccepted = await unacceptedDocuments(database)
  const pieces = await storage.list(folders.pieces)
  const kinds: StorageKind[] = [
    { id: 'takes', bytes: await bytesBelow(storage, folders.takes), freeable: freeableTakes, problem },
    { id: 'deliveries', bytes: await bytesBelow(storage, folders.deliveries), freeable: await goingDeliveries(storage, old), problem: null },
    { id: 'pieces', bytes: sizeOf(pieces), freeable: { bytes: sizeOf(pieces), count: pieces.length, items: [] }, problem: null },
    { id: 'documents', bytes: await bytesBelow(storage, folders.manuscripts), freeable: await goingDocuments(storage, unaccepted), problem: null },
    { id: 'database', bytes: Number(size!.bytes), freeable: null, problem: null },
  ]
  return { freeBytes, kinds }
}

/**
 * Frees one kind, as the view showed it. Gives the bytes that are free now; room in packs that were written just now follows with
 * the next tidying. Throws a problem while something is being read or delivered.
 */
export async function freeStorage(database: Database, storage: FileStorage, packs: Packs, kind: Exclude<StorageKindId, 'database'>, keptDeliveries = leastKept, brokenBy: BrokenBy = bringing(database)): Promise<number> {
  const busy = await database.rows('SELECT id FROM readings WHERE state = \'running\' UNION ALL SELECT id FROM deliveries WHERE state = \'running\' LIMIT 1')
  if (busy.length > 0) fail('storage-busy', 'A reading or a delivery is running. Wait for it or stop it, then free space.')
  const folder = { takes: folders.takes, deliveries: folders.deliveries, pieces: folders.pieces, documents: folders.manuscripts }[kind]
  const before = await bytesBelow(storage, folder)
  if (kind === 'takes') {
    const problem = await obstacle(database, brokenBy)
    if (problem !== null) fail(problem.code, problem.message)
    await database.sequelize.transaction(async transaction => {
      // A choice that is being made is waited for, and counts.
      await database.sequelize.query('LOCK TABLE choices IN SHARE MODE', { transaction })
      const unused = await unusedTakes(database, transaction)
      await database.rows('DELETE FROM takes WHERE id = ANY($1) RETURNING id', [unused.map(take => take.id)], transaction)
    })
    await compactPacks(database, storage, packs)
  } else if (kind === 'deliveries') {
    for (const { id } of await olderDeliveries(database, keptDeliveries)) await dropDelivery(database, storage, id)
  } else if (kind === 'pieces') {
    await freePieces(database, storage, 0)
  } else {
    for (const { id, sha256 } of await unacceptedDocuments(database)) {
      await database.rows('DELETE FROM manuscripts WHERE id = $1 RETURNING id', [id])
      if (await isUnnamed(database, sha256)) await storage.remove(manuscriptFile(sha256))
    }
  }
  return Math.max(0, before - await bytesBelow(storage, folder))
}

/**
 * Removes packs that no take lies in, and rewrites those that are mostly empty. Packs that may still be written to are left
 * for the next time, to be spared; whether one is does not rest on the clock. Gives their files, which are gone.
 */
export async function compactPacks(database: Database, storage: FileStorage, packs: Packs, now = Date.now()): Promise<string[]> {
  const used = await database.rows<{ pack: string, bytes: number }>('SELECT pack, sum(sample_count * 2)::double precision AS bytes FROM takes GROUP BY pack')
  const usedBytes = new Map(used.map(({ pack, bytes }) => [pack, bytes]))
  const gone: string[] = []
  for (const file of await storage.list(folders.takes)) {
    const pack = basename(file.name)
    if (!pack.endsWith('.pack') || now - file.changedMs < settledMs) continue
    if ((usedBytes.get(pack) ?? 0) > file.bytes / 2) continue
    await packs.seal(pack)
    const live = await takesIn(database, pack)
    if (live.length > 0) await moveTakes(database, live, await packs.rewrite(pack, live))
    await packs.remove(pack)
    gone.push(file.name)
  }
  return gone
}

/** Points the index at the takes' new places; those that were not moved are damaged, and count as not made. */
async function moveTakes(database: Database, from: readonly TakeRecord[], to: readonly TakeRecord[]): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    await database.rows(
      'UPDATE takes t SET pack = n.pack, "offset" = n."offset" FROM jsonb_to_recordset($1::jsonb) AS n(id text, pack text, "offset" bigint) '
      + 'WHERE t.id = n.id AND t.pack = $2 RETURNING t.id', [JSON.stringify(to.map(take => ({ id: takeId(take), pack: take.pack, offset: take.offset }))), from[0]!.pack], transaction)
    await database.rows('DELETE FROM takes WHERE pack = $1 RETURNING key', [from[0]!.pack], transaction)
  })
}

/**
 * Takes that no script asks for as it is now, or as it was when it was taken off the shelf. A sound of a library is none of them, nor what a choice holds, nor a recording, which nothing makes again.
 * All scripts on the shelf must be up to date.
 */
function unusedTakes(database: Database, transaction?: Transaction): Promise<TakeSize[]> {
  return database.rows<TakeSize>(
    'SELECT t.id, (t.sample_count * 2)::double precision AS bytes FROM takes t WHERE t.origin <> \'recorded\' AND NOT EXISTS (SELECT 1 FROM assets a WHERE a.take_key = t.id) '
    + 'AND NOT EXISTS (SELECT 1 FROM choices c WHERE c.take = t.id) AND t.id NOT IN (SELECT unnest(m.takes) FROM part_summaries m)', [], transaction)
}

/** Why it cannot be told what scripts ask for: one of them is broken. Brings the others up to date; null when all of them are. */
async function obstacle(database: Database, brokenBy: BrokenBy): Promise<Problem | null> {
  for (const { id, title } of await database.rows<{ id: string, title: string }>('SELECT e.id, p.title FROM editions e JOIN productions p ON p.id = e.production_id WHERE e.removed_at IS NULL')) {
    const problem = await brokenBy(id)
    if (problem !== null) return { code: 'production-broken', message: `“${title}” cannot be put together, so it is not known which audio it needs: ${problem.message} Mend or remove it first.` }
  }
  return null
}

function goingTakes(unused: readonly TakeSize[]): Going {
  return { bytes: unused.reduce((sum, take) => sum + take.bytes, 0), count: unused.length, items: [] }
}

interface OldDelivery {
  readonly id: string
  readonly number: number
  readonly title: string
}

/** Deliveries that are not among the newest so many finished ones of their edition. */
function olderDeliveries(database: Database, kept: number): Promise<OldDelivery[]> {
  return database.rows<OldDelivery>(
    'SELECT d.id, d.number, d.title FROM deliveries d WHERE d.state <> \'running\' AND (d.state <> \'done\' OR $1 <= ('
    + 'SELECT count(*) FROM deliveries n WHERE n.edition_id = d.edition_id AND n.profile->>\'name\' = d.profile->>\'name\' AND n.state = \'done\' AND n.number > d.number)) ORDER BY d.title, d.number', [kept])
}

/** A file that several deliveries share goes only with the last of them. */
async function goingDeliveries(storage: FileStorage, old: readonly OldDelivery[]): Promise<Going> {
  const links = new Map<string, { left: number, bytes: number }>()
  for (const { id } of old) {
    for (const file of await storage.list(deliveryFolder(id))) {
      const known = links.get(file.identity) ?? { left: file.names, bytes: file.bytes }
      links.set(file.identity, { ...known, left: known.left - 1 })
    }
  }
  return {
    bytes: [...links.values()].reduce((sum, file) => sum + (file.left === 0 ? file.bytes : 0), 0),
    count: old.length, items: old.slice(0, named).map(delivery => `${delivery.title}, delivery ${delivery.number}`),
  }
}

interface UnacceptedDocument {
  readonly id: string
  readonly fileName: string
  readonly sha256: string
}

function unacceptedDocuments(database: Database): Promise<UnacceptedDocument[]> {
  return database.rows<UnacceptedDocument>(
    'SELECT m.id, m.file_name AS "fileName", m.sha256 FROM manuscripts m WHERE m.created_at < now() - $1 * interval \'1 hour\' '
    + 'AND NOT EXISTS (SELECT 1 FROM editions e WHERE e.manuscript_id = m.id) ORDER BY m.created_at', [acceptedWithinHours])
}

async function goingDocuments(storage: FileStorage, documents: readonly UnacceptedDocument[]): Promise<Going> {
  const files = new Map((await storage.list(folders.manuscripts)).map(file => [basename(file.name), file.bytes]))
  const bytes = [...new Set(documents.map(document => document.sha256))].reduce((sum, sha256) => sum + (files.get(sha256) ?? 0), 0)
  return { bytes, count: documents.length, items: documents.slice(0, named).map(document => document.fileName) }
}

/** Whether no document of the database has these bytes. */
async function isUnnamed(database: Database, sha256: string): Promise<boolean> {
  return (await database.rows('SELECT id FROM manuscripts WHERE sha256 = $1 LIMIT 1', [sha256])).length === 0
}

/** Bytes that are used below a folder; a file with several names counts once. */
async function bytesBelow(storage: FileStorage, folder: string): Promise<number> {
  return sizeOf(await storage.list(folder))
}

function sizeOf(files: readonly StoredFile[]): number {
  return [...new Map(files.map(file => [file.identity, file.bytes])).values()].reduce((sum, bytes) => sum + bytes, 0)
}
