import { openDatabase } from './database'
import { migrate } from './migrate'

// Run before the server and the workers start: brings the schema up to date.
const url = process.env['QUILL_DATABASE_URL']
if (url === undefined) throw new Error('QUILL_DATABASE_URL is not set.')
const database = openDatabase(url)
await migrate(database)
await database.close()
