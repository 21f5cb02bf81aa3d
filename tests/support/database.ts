import { randomBytes } from 'node:crypto'
import pg from 'pg'
import type { ProposedPart } from '#core/manuscript/structure'
import { openDatabase, type Database } from '../../store/database'
import { createProduction, productionOf } from '../../store/editions'
import { migrate } from '../../store/migrate'
import { dropEdition, removeProduction } from '../../store/removed'
import { casting } from './casting'

/** A migrated database of its own for the tests of a file, dropped after them. `before` fills it before it is migrated. */
export function ownDatabase(before?: (client: pg.Client) => Promise<unknown>): { database: () => Database, url: () => string } {
  const name = `test_${randomBytes(6).toString('hex')}`
  const cluster = process.env['QUILL_TEST_CLUSTER']!
  const url = cluster.replace(/\/[^/]*$/u, `/${name}`)
  let database: Database
  const administer = (sql: string): Promise<void> => connected(cluster, client => client.query(sql))
  beforeAll(async () => {
    await administer(`CREATE DATABASE ${name}`)
    if (before !== undefined) await connected(url, before)
    database = openDatabase(url)
    await migrate(database)
  })
  afterAll(async () => {
    await database.close()
    await administer(`DROP DATABASE ${name} WITH (FORCE)`)
  })
  return { database: () => database, url: () => url }
}

async function connected(url: string, work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  try {
    await work(client)
  } finally {
    await client.end()
  }
}

export function part(label: string, ...texts: string[]): ProposedPart {
  return {
    kind: 'chapter', label, included: true, level: 1, block: 0, about: null,
    passages: [{ kind: 'title', text: label, level: 1, block: 0 }, ...texts.map((text, index) => ({ kind: 'paragraph' as const, text, block: index + 1 }))],
  }
}

/** The id of the production of an edition. */
export async function productionIdOf(editionId: string): Promise<string> {
  return (await productionOf(editionId)).id
}

/** Removes the production of an edition for good. */
export async function removedForGood(database: Database, editionId: string): Promise<void> {
  const { id, editions } = await productionOf(editionId)
  await removeProduction(database, id)
  for (const edition of editions) await dropEdition(database, edition.id)
}

/** A production of these parts; gives its edition's id. */
export function production(database: Database, ...parts: ProposedPart[]): Promise<string> {
  return createProduction(database, { manuscriptId: null, title: 'The Year', author: 'T. Orrery', language: 'en', parts, casting })
}
