import { basename, dirname } from 'node:path'
import { sealMark, type Packs } from '#takes/packs'
import { draftMark, type FileStorage, type StoredFile } from '#takes/storage'
import { forgetOrders } from './accounts'
import type { Database } from './database'
import { folders } from './folders'
import { freePieces } from './pieces'
import { pruneReadings } from './readings'
import { dropOld } from './removed'
import { compactPacks } from './storage'

/** What has changed within this time may be in use. */
const leftAfterMs = 55 * 60_000

/** Between two looks for leftovers, ms. */
export const tidyMs = 60 * 60_000

/** What looked left over when it was seen: as it was then, and since when, by a clock that only goes forward. */
export type Leftovers = Map<string, { readonly version: string, readonly sinceMs: number }>

/**
 * Removes what work that was cut off has left: unfinished files, files of deliveries, documents and encoded pieces that are no longer in the database, and
 * empty packs; encoded pieces that were not used for long. A file goes when it has been seen unchanged for the better part of an hour, whatever its date says; `leftovers` is what earlier calls
 * have seen. Gives the names of the files that are gone.
 */
export async function tidy(database: Database, storage: FileStorage, packs: Packs, leftovers: Leftovers, nowMs = performance.now()): Promise<string[]> {
  await database.rows('DELETE FROM claims WHERE expires_at < now() - interval \'1 hour\' RETURNING key')
  await pruneReadings(database)
  await dropOld(database)
  await forgetOrders(database)
  const removed = await compactPacks(database, storage, packs)
  removed.push(...await freePieces(database, storage))
  const pieces = await known(database, 'SELECT key AS name FROM pieces')
  const deliveries = await known(database, 'SELECT id AS name FROM deliveries')
  const documents = await known(database, 'SELECT sha256 AS name FROM manuscripts')
  const covers = await known(database, 'SELECT cover->>\'sha256\' AS name FROM editions WHERE cover IS NOT NULL UNION SELECT cover->>\'sha256\' FROM deliveries WHERE cover IS NOT NULL')
  const takes = await storage.list(folders.takes)
  const packNames = new Set(takes.map(file => file.name))
  const left = [
    ...takes.filter(({ name }) => name.endsWith(sealMark) && !packNames.has(name.slice(0, -sealMark.length))),
    ...(await storage.list(folders.manuscripts)).filter(({ name }) => !documents.has(basename(name))),
    ...(await storage.list(folders.covers)).filter(({ name }) => !covers.has(basename(name))),
    ...(await storage.list(folders.pieces)).filter(({ name }) => !pieces.has(basename(name))),
    ...(await storage.list(folders.deliveries)).filter(({ name }) => !deliveries.has(basename(dirname(name)))),
  ].filter(file => !isDraft(file)).map((file): Left => ({ storage, file }))
  return [...removed, ...await removeLeft([...left, ...await draftsOf(storage)], leftovers, nowMs)]
}

/** The same for drafts alone, which may lie on the machine of this process. */
export async function tidyDrafts(storage: FileStorage, leftovers: Leftovers, nowMs = performance.now()): Promise<string[]> {
  return removeLeft(await draftsOf(storage), leftovers, nowMs)
}

interface Left {
  readonly storage: FileStorage
  readonly file: StoredFile
}

const isDraft = ({ name }: StoredFile): boolean => name.endsWith(draftMark)

async function draftsOf({ drafts }: FileStorage, folder = '.'): Promise<Left[]> {
  return (await drafts.list(folder)).filter(isDraft).map(file => ({ storage: drafts, file }))
}

/** Removes at once what a process that was killed has begun to write in a folder. Nobody else may be writing there. */
export async function removeDrafts(storage: FileStorage, folder: string): Promise<void> {
  for (const draft of await draftsOf(storage, folder)) await draft.storage.remove(draft.file.name)
}

async function removeLeft(left: readonly Left[], leftovers: Leftovers, nowMs: number): Promise<string[]> {
  const removed: string[] = []
  const seen: Leftovers = new Map()
  for (const { storage, file: { name, version } } of left) {
    const before = leftovers.get(name)
    const sinceMs = before?.version === version ? before.sinceMs : nowMs
    if (nowMs - sinceMs < leftAfterMs) {
      seen.set(name, { version, sinceMs })
      continue
    }
    await storage.remove(name)
    removed.push(name)
  }
  leftovers.clear()
  for (const [name, each] of seen) leftovers.set(name, each)
  return removed
}

async function known(database: Database, query: string): Promise<Set<string>> {
  return new Set((await database.rows<{ name: string }>(query)).map(row => row.name))
}
