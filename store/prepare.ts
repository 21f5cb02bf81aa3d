import pg from 'pg'
import { openDatabase } from './database'
import { migrate } from './migrate'
import { openQueue } from './queue'

// Run before the server and the workers start: makes the database when there is none, and brings the schemas of
// the application and of the job queue up to date.
const url = process.env['QUILL_DATABASE_URL']
if (url === undefined) throw new Error('QUILL_DATABASE_URL is not set.')
await makeDatabase(url)
const database = openDatabase(url)
await migrate(database)
await database.close()
await (await openQueue(url, 'server')).stop({ graceful: false })

async function makeDatabase(wanted: string): Promise<void> {
  const name = new URL(wanted).pathname.slice(1)
  const client = new pg.Client({ connectionString: wanted.replace(/\/[^/]*$/u, '/postgres') })
  await client.connect()
  try {
    const { rowCount } = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [name])
    if (rowCount === 0) await client.query(`CREATE DATABASE ${client.escapeIdentifier(name)}`)
  } finally {
    await client.end()
  }
}
