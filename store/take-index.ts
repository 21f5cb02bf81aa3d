import { takeId } from '#core/takes/take'
import type { TakeIndex, TakeRecord } from '#takes/take'
import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { Database } from './database'

/** The samples of a take `t` at a rate (Hz), as it is resampled to that of its track (`core/audio/resample`); null where there is no take. */
export const samplesAtSql = (rate: string): string => `CASE WHEN t.sample_rate = ${rate} THEN t.sample_count ELSE round(t.sample_count::numeric * ${rate} / t.sample_rate) END`

const usualLeaseMs = 60_000

interface TakeRow extends Omit<TakeRecord, 'sampleCount' | 'offset' | 'checksum' | 'wordMarks'> {
  /** As JSON: the driver takes long over lists. */
  readonly wordMarks: string
  readonly sampleCount: string
  readonly offset: string
  readonly checksum: string
}

/** Where the samples of a take lie. */
const places = 'pack, "offset", checksum'
const columns = 'key, variant, origin, text_hash AS "textHash", sample_rate AS "sampleRate", sample_count AS "sampleCount", to_json(word_marks)::text AS "wordMarks", pack, "offset", checksum'

function toRecord(row: TakeRow): TakeRecord {
  return { ...row, wordMarks: JSON.parse(row.wordMarks) as number[], sampleCount: Number(row.sampleCount), offset: Number(row.offset), checksum: Number(row.checksum) }
}

/** The takes that lie in a pack, in their order there. */
export async function takesIn(database: Database, pack: string): Promise<TakeRecord[]> {
  return (await database.rows<TakeRow>(`SELECT ${columns} FROM takes WHERE pack = $1 ORDER BY "offset"`, [pack])).map(toRecord)
}

/**
 * The take index in the database. Claims are leases, so that a process that dies holds nothing for long; one
 * that comes back as the same `holder` has its claims at once.
 */
export function takeIndex(database: Database, holder = uuidv7(), leaseMs = usualLeaseMs): TakeIndex {
  return {
    leaseMs,
    find: async ids => {
      if (ids.length === 0) return new Map()
      const rows = await database.rows<TakeRow>(`SELECT ${columns} FROM takes WHERE id = ANY($1)`, [[...ids]])
      return new Map(rows.map(row => [takeId(row), toRecord(row)]))
    },
    claim: async keys => {
      if (keys.length === 0) return []
      const rows = await database.rows<{ key: string }>(
        'INSERT INTO claims (key, holder, expires_at) SELECT k, $2, now() + $3 * interval \'1 millisecond\' FROM unnest($1::text[]) AS k ORDER BY k '
        + 'ON CONFLICT (key) DO UPDATE SET holder = $2, expires_at = excluded.expires_at '
        // One that ends much later than any that is made now was made by a clock that has been put back; a little later, by a renewal that came between.
        + 'WHERE claims.expires_at < now() OR claims.expires_at > excluded.expires_at + $3 * interval \'1 millisecond\' OR claims.holder = $2 '
        + 'RETURNING key', [[...keys], holder, leaseMs])
      const claimed = new Set(rows.map(row => row.key))
      // Asked after the claim: another may have stored a take, and given up its claim, since the caller looked for it.
      const made = await database.rows<{ key: string }>(
        'DELETE FROM claims WHERE holder = $2 AND key = ANY($1) AND EXISTS (SELECT 1 FROM takes WHERE takes.id = claims.key) RETURNING key', [[...claimed], holder])
      for (const { key } of made) claimed.delete(key)
      return keys.filter(key => claimed.has(key))
    },
    renew: async keys => {
      if (keys.length > 0) await database.rows('UPDATE claims SET expires_at = now() + $3 * interval \'1 millisecond\' WHERE holder = $2 AND key = ANY($1) RETURNING key', [[...keys], holder, leaseMs])
    },
    release: async keys => {
      if (keys.length > 0) await database.rows('DELETE FROM claims WHERE holder = $2 AND key = ANY($1) RETURNING key', [[...keys], holder])
    },
    forget: async takes => {
      for (const take of takes) {
        await database.rows('DELETE FROM takes WHERE id = $1 AND pack = $2 AND "offset" = $3 RETURNING key', [takeId(take), take.pack, take.offset])
      }
    },
    add: async takes => {
      if (takes.length === 0) return
      await database.sequelize.transaction(async transaction => {
        await insert(takes, 'NOTHING', [], transaction)
        await database.rows('DELETE FROM claims WHERE holder = $2 AND key = ANY($1) RETURNING key', [takes.map(takeId), holder], transaction)
      })
    },
    replace: async (takes, pack) => {
      await insert(takes, `UPDATE SET (${places}) = (${places.replace(/^|(?<=, )/gu, 'excluded.')}) WHERE takes.pack = $2`, [pack])
    },
  }

  /** Inserts takes. For a key that is there already it does what `otherwise` says. */
  async function insert(takes: readonly TakeRecord[], otherwise: string, bind: readonly unknown[], transaction?: Transaction): Promise<void> {
    const rows = takes.map(take => ({
      key: take.key, variant: take.variant, origin: take.origin, text_hash: take.textHash, sample_rate: take.sampleRate, sample_count: take.sampleCount, word_marks: take.wordMarks,
      pack: take.pack, offset: take.offset, checksum: take.checksum,
    }))
    await database.rows(
      `INSERT INTO takes (key, variant, origin, text_hash, sample_rate, sample_count, word_marks, ${places}) `
      + `SELECT key, variant, origin, text_hash, sample_rate, sample_count, ARRAY(SELECT jsonb_array_elements_text(word_marks)::integer), ${places} `
      + 'FROM jsonb_to_recordset($1::jsonb) AS t(key text, variant integer, origin text, text_hash text, sample_rate integer, sample_count bigint, word_marks jsonb, pack text, "offset" bigint, checksum bigint) '
      + `ON CONFLICT (key, variant) DO ${otherwise} RETURNING key`, [JSON.stringify(rows), ...bind], transaction)
  }
}
