import type { Problem } from '#core/problem'
import type { Database } from './database'

/** A document is read by one server at a time, which says every second that it still does. One that says nothing for so long has ended. */
const leaseSeconds = 5

const isHeld = '(reader IS NOT NULL AND reader_until > now())'

/** Takes a document to be read. False where another reads it, or where it is not to be read any more. */
export async function claimIntake(database: Database, id: string, reader: string): Promise<boolean> {
  const rows = await database.rows(
    `UPDATE manuscripts SET reader = $2, reader_until = now() + $3 * interval '1 second', stop_asked = false WHERE id = $1 AND state = 'reading' AND (NOT ${isHeld} OR reader = $2) RETURNING id`, [id, reader, leaseSeconds])
  return rows.length > 0
}

/** Goes on reading a document, which is so far (0…1): whether it is to be stopped, or is somebody else's now. */
export async function keepIntake(database: Database, id: string, reader: string, progress: number): Promise<'go' | 'stop' | 'lost'> {
  const [row] = await database.rows<{ stopAsked: boolean }>(
    'UPDATE manuscripts SET progress = $3, reader_until = now() + $4 * interval \'1 second\' WHERE id = $1 AND reader = $2 AND state = \'reading\' RETURNING stop_asked AS "stopAsked"', [id, reader, progress, leaseSeconds])
  return row === undefined ? 'lost' : row.stopAsked ? 'stop' : 'go'
}

/** Where the reading of a document stands, whoever does it: whether somebody does, and how many documents came before it. */
export async function intakeTurn(database: Database, id: string): Promise<{ readonly isHeld: boolean, readonly progress: number, readonly ahead: number }> {
  const [row] = await database.rows<{ isHeld: boolean, progress: number, ahead: number }>(
    `SELECT ${isHeld} AS "isHeld", progress, (SELECT count(*)::integer FROM manuscripts o WHERE o.state = 'reading' AND o.id < m.id) AS ahead FROM manuscripts m WHERE id = $1`, [id])
  return row ?? { isHeld: false, progress: 0, ahead: 0 }
}

/** Most documents that are taken up at once. */
const mostTakenUp = 50

/** Ids of documents that are to be read and that nobody reads, the first first. */
export async function waitingIntakes(database: Database): Promise<string[]> {
  return (await database.rows<{ id: string }>(`SELECT id FROM manuscripts WHERE state = 'reading' AND NOT ${isHeld} ORDER BY id LIMIT ${mostTakenUp}`)).map(row => row.id)
}

/** Asks whoever reads a document to stop. Where nobody does, it is stopped with this problem. True when somebody has been asked. */
export async function askToStopIntake(database: Database, id: string, problem: Problem): Promise<boolean> {
  const asked = await database.rows(`UPDATE manuscripts SET stop_asked = true WHERE id = $1 AND state = 'reading' AND ${isHeld} RETURNING id`, [id])
  if (asked.length > 0) return true
  await database.rows(`UPDATE manuscripts SET state = 'stopped', problem = $2 WHERE id = $1 AND state = 'reading' AND NOT ${isHeld} RETURNING id`, [id, JSON.stringify(problem)])
  return false
}

/** How the reading of a document has ended; `content` is the JSON of what was found. */
export interface IntakeEnd {
  readonly content: string | null
  readonly state: 'ready' | 'stopped' | 'failed'
  readonly problem: Problem | null
}

/** Notes how the reading of a document has ended, unless it is somebody else's now. */
export async function endIntake(database: Database, id: string, reader: string, { content, state, problem }: IntakeEnd): Promise<void> {
  await database.rows(
    'UPDATE manuscripts SET content = $3::jsonb, state = $4, problem = $5::jsonb, progress = CASE WHEN $4 = \'ready\' THEN 1 ELSE progress END, reader = NULL, reader_until = NULL '
    + 'WHERE id = $1 AND reader = $2 AND state = \'reading\' RETURNING id', [id, reader, content, state, problem === null ? null : JSON.stringify(problem)])
}
