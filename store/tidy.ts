import { readdir, rm, rmdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { sealMark, type Packs } from '#takes/packs'
import type { Database } from './database'
import type { Folders } from './folders'
import { pruneReadings } from './readings'
import { compactPacks, filesIn } from './storage'

/** What has changed within this time may be in use. */
const leftAfterMs = 55 * 60_000

/** What looked left over when it was seen: as it was then, and since when, by a clock that only goes forward. */
export type Leftovers = Map<string, { readonly state: string, readonly sinceMs: number }>

/**
 * Removes what work that was cut off has left: unfinished files, files of deliveries and documents that are no longer in the database, and
 * empty packs. A file goes when it has been seen unchanged for the better part of an hour, whatever its date says; `leftovers` is what earlier calls
 * have seen. Gives the paths that are gone, below the data folder.
 */
export async function tidy(database: Database, folders: Folders, packs: Packs, leftovers: Leftovers, nowMs = performance.now()): Promise<string[]> {
  await database.rows('DELETE FROM claims WHERE expires_at < now() - interval \'1 hour\' RETURNING key')
  await pruneReadings(database)
  const removed = (await compactPacks(database, folders, packs)).map(name => join('takes', name))
  const deliveries = await known(database, 'SELECT id AS name FROM deliveries')
  const documents = await known(database, 'SELECT sha256 AS name FROM manuscripts')
  const packNames = new Set((await filesIn(folders.takes)).map(file => file.name))
  const isLeft: Readonly<Record<'takes' | 'manuscripts' | 'deliveries', (name: string) => boolean>> = {
    takes: name => name.endsWith('.part') || name.endsWith(sealMark) && !packNames.has(name.slice(0, -sealMark.length)),
    manuscripts: name => !documents.has(name),
    deliveries: name => name.endsWith('.part') || !deliveries.has(dirname(name)),
  }
  const seen: Leftovers = new Map()
  for (const folder of ['takes', 'manuscripts', 'deliveries'] as const) {
    for (const file of await filesIn(folders[folder])) {
      if (!isLeft[folder](file.name)) continue
      const path = join(folder, file.name)
      const state = `${file.bytes} ${file.mtimeMs}`
      const known = leftovers.get(path)
      const sinceMs = known?.state === state ? known.sinceMs : nowMs
      seen.set(path, { state, sinceMs })
      if (nowMs - sinceMs < leftAfterMs) continue
      await rm(join(folders[folder], file.name), { force: true })
      seen.delete(path)
      removed.push(path)
    }
  }
  leftovers.clear()
  for (const [path, left] of seen) leftovers.set(path, left)
  for (const name of await readdir(folders.deliveries).catch(() => [])) {
    // Only succeeds for one that is empty.
    if (!deliveries.has(name)) await rmdir(join(folders.deliveries, name)).catch(() => undefined)
  }
  return removed
}

async function known(database: Database, query: string): Promise<Set<string>> {
  return new Set((await database.rows<{ name: string }>(query)).map(row => row.name))
}
