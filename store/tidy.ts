import { readdir, rm, rmdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Packs } from '#takes/packs'
import type { Database } from './database'
import type { Folders } from './folders'
import { compactPacks, filesIn } from './storage'

/** What is younger may be in use. */
const leftAfterMs = 60 * 60_000

/**
 * Removes what work that was cut off has left: unfinished files, files of deliveries and documents that are no longer in the database, and
 * empty packs. Gives the paths that are gone, below the data folder.
 */
export async function tidy(database: Database, folders: Folders, packs: Packs, now = Date.now()): Promise<string[]> {
  await database.rows('DELETE FROM claims WHERE expires_at < now() - interval \'1 hour\' RETURNING key')
  const removed = (await compactPacks(database, folders, packs, now)).map(name => join('takes', name))
  const deliveries = await known(database, 'SELECT id AS name FROM deliveries')
  const documents = await known(database, 'SELECT sha256 AS name FROM manuscripts')
  const isLeft: Readonly<Record<keyof Folders, (name: string) => boolean>> = {
    takes: name => name.endsWith('.part'),
    manuscripts: name => !documents.has(name),
    deliveries: name => name.endsWith('.part') || !deliveries.has(dirname(name)),
  }
  for (const folder of ['takes', 'manuscripts', 'deliveries'] as const) {
    for (const file of await filesIn(folders[folder])) {
      if (now - file.mtimeMs < leftAfterMs || !isLeft[folder](file.name)) continue
      await rm(join(folders[folder], file.name), { force: true })
      removed.push(join(folder, file.name))
    }
  }
  for (const name of await readdir(folders.deliveries).catch(() => [])) {
    // Only succeeds for one that is empty.
    if (!deliveries.has(name)) await rmdir(join(folders.deliveries, name)).catch(() => undefined)
  }
  return removed
}

async function known(database: Database, query: string): Promise<Set<string>> {
  return new Set((await database.rows<{ name: string }>(query)).map(row => row.name))
}
