import type { Problem } from '#core/problem'
import type { Database } from './database'

/** How the reading of a document has ended; `content` is the JSON of what was found. */
export interface IntakeEnd {
  readonly content: string | null
  readonly state: 'ready' | 'stopped' | 'failed'
  readonly problem: Problem | null
}

/** Notes how the reading of a document has ended. */
export async function endIntake(database: Database, id: string, { content, state, problem }: IntakeEnd): Promise<void> {
  await database.rows('UPDATE manuscripts SET content = $2::jsonb, state = $3, problem = $4::jsonb, progress = CASE WHEN $3 = \'ready\' THEN 1 ELSE progress END WHERE id = $1 RETURNING id',
    [id, content, state, problem === null ? null : JSON.stringify(problem)])
}
