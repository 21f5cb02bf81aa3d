import type { Database } from './database'

// How much there is of something, in bytes as JSON (the database may keep less): tells what kind of process does work on it.

async function bytes(database: Database, sql: string, ...values: string[]): Promise<number> {
  const [row] = await database.rows<{ bytes: string | null }>(sql, values)
  return Number(row?.bytes ?? 0)
}

/** Of the texts of an edition. */
export function editionBytes(database: Database, editionId: string): Promise<number> {
  return bytes(database, 'SELECT sum(octet_length(s.content::text)) AS bytes FROM passages s JOIN parts p ON p.id = s.part_id WHERE p.edition_id = $1', editionId)
}

/** Of the texts of a part. */
export function partBytes(database: Database, partId: string): Promise<number> {
  return bytes(database, 'SELECT sum(octet_length(content::text)) AS bytes FROM passages WHERE part_id = $1', partId)
}

/** Of the wordbooks that count for an edition; never 0. */
export async function wordbookBytes(database: Database, editionId: string): Promise<number> {
  return 1 + await bytes(database, 'SELECT sum(octet_length(w.entry::text)) AS bytes FROM wordbook_entries w JOIN wordbooks b ON b.id = w.wordbook_id '
    + 'WHERE b.production_id IS NULL OR b.production_id = (SELECT production_id FROM editions WHERE id = $1)', editionId)
}

/** Of the largest of the newest edits of a window, one of which is undone or redone next. */
export function nextEditBytes(database: Database, editionId: string, window: string): Promise<number> {
  return bytes(database, 'SELECT max(bytes) AS bytes FROM (SELECT octet_length(changes::text) AS bytes FROM edits WHERE edition_id = $1 AND author_window = $2 ORDER BY ordinal DESC LIMIT 20) e', editionId, window)
}

/** Of what a reader made of a document; 0 while it is not read. */
export function manuscriptBytes(database: Database, manuscriptId: string): Promise<number> {
  return bytes(database, 'SELECT octet_length(content::text) AS bytes FROM manuscripts WHERE id = $1', manuscriptId)
}
