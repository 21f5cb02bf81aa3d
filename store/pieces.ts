import { pieceFile } from '#takes/piece-file'
import type { FileStorage } from '#takes/storage'
import type { Database } from './database'

/** An encoded piece that no delivery has used for so long is freed. */
const keptForDays = 30

/** Notes that encoded pieces were used. */
export async function usePieces(database: Database, keys: readonly string[]): Promise<void> {
  await database.rows('INSERT INTO pieces (key) SELECT unnest($1::text[]) ON CONFLICT (key) DO UPDATE SET used_at = now() RETURNING key', [[...new Set(keys)]])
}

/** Frees the encoded pieces that no delivery has used for so many days; what a delivery needs of them it makes again. Gives the names of their files. */
export async function freePieces(database: Database, storage: FileStorage, unusedForDays = keptForDays): Promise<string[]> {
  const freed = await database.rows<{ key: string }>('DELETE FROM pieces WHERE used_at <= now() - $1 * interval \'1 day\' RETURNING key', [unusedForDays])
  const names = freed.map(({ key }) => pieceFile(key))
  for (const name of names) await storage.remove(name)
  return names
}
