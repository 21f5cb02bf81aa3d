import { setTimeout as sleep } from 'node:timers/promises'
import { v4 as uuidv4 } from 'uuid'
import { hash } from '#core/hash'
import { fail } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import type { AccountView } from '#shared/api'
import type { Accounts } from '#voices/paid/accounts'
import type { Order } from '#voices/paid/orders'
import { engineKinds } from '#voices/registry'
import type { Database } from './database'
import type { Secrets } from './secrets'

/** How long a service is relied on to know an idempotency key: most remember a day. */
const remembered = 'interval \'20 hours\''

async function keptAccount(database: Database, engine: EngineId): Promise<{ readonly id: string, readonly address: string, readonly sealedKey: string } | undefined> {
  const [row] = await database.rows<{ id: string, address: string, sealedKey: string }>('SELECT id, address, sealed_key AS "sealedKey" FROM engine_accounts WHERE engine = $1', [engine])
  return row
}

/** The accounts in the database, with its ledger. */
export function storedAccounts(database: Database, secrets: Secrets): Accounts {
  return {
    of: async engine => {
      const row = await keptAccount(database, engine)
      return row === undefined ? null : { id: row.id, engine, address: row.address, key: await secrets.open(row.sealedKey) }
    },
    turn: async (account, id, requestsPerSecond) => {
      // Whoever comes while the bucket is empty takes a token of the time to come, and waits until then.
      const [row] = await database.rows<{ tokens: number }>(
        'UPDATE engine_accounts SET tokens = least(1, tokens + $2 * greatest(0, extract(epoch FROM clock_timestamp() - filled_at)::double precision)) - 1, filled_at = clock_timestamp() '
        + 'WHERE id = $1 RETURNING tokens', [account.id, requestsPerSecond])
      if (row !== undefined && row.tokens < 0) await sleep(-row.tokens / requestsPerSecond * 1000)
      await database.rows('UPDATE ledger_entries SET tries = tries + 1 WHERE id = $1 RETURNING id', [id])
    },
    reserve: (account, { order, keys, characters, micros, currency, purpose }) => database.sequelize.transaction(async transaction => {
      const digest = hash(order)
      const [known] = await database.rows<{ id: string }>(
        `SELECT id FROM ledger_entries WHERE account_id = $1 AND digest = $2 AND state <> 'refused' AND asked_at > now() - ${remembered} ORDER BY asked_at DESC LIMIT 1`, [account.id, digest], transaction)
      if (known !== undefined) return known.id
      const id = uuidv4()
      await database.rows(
        'INSERT INTO ledger_entries (id, engine, account_id, edition_id, part_id, digest, keys, request, currency, reserved_characters, reserved_micros) '
        + 'VALUES ($1, $2, $3, (SELECT id FROM editions WHERE id = $4), (SELECT id FROM parts WHERE id = $5), $6, $7, $8, $9, $10, $11) RETURNING id',
        [id, account.engine, account.id, purpose?.editionId ?? null, purpose?.partId ?? null, digest, [...keys], JSON.stringify(order), currency, characters, micros], transaction)
      return id
    }),
    settle: async (id, { characters, micros }) => {
      await database.rows('UPDATE ledger_entries SET state = \'paid\', characters = $2, micros = $3, answer = NULL, answered_at = now() WHERE id = $1 RETURNING id', [id, characters, micros])
    },
    refuse: async (id, reason) => {
      await database.rows('UPDATE ledger_entries SET state = \'refused\', characters = 0, micros = 0, answer = $2, answered_at = now() WHERE id = $1 RETURNING id', [id, reason])
    },
    begun: async (account, keys) => {
      const rows = await database.rows<{ request: Order }>(
        `SELECT request FROM ledger_entries WHERE account_id = $1 AND state <> 'refused' AND request IS NOT NULL AND keys && $2 AND asked_at > now() - ${remembered} ORDER BY asked_at`,
        [account.id, [...keys]])
      return rows.map(({ request }) => request)
    },
  }
}

/** What was asked for need not be kept in its words once its service has forgotten it. */
export async function forgetOrders(database: Database): Promise<void> {
  await database.rows(`UPDATE ledger_entries SET request = NULL WHERE request IS NOT NULL AND asked_at < now() - ${remembered} RETURNING id`)
}

const paidEngine = (id: EngineId): string => engineKinds().map(({ capabilities }) => capabilities).find(each => each.id === id && each.isPaid === true)?.name ?? fail('not-found', 'There is no such service. Load the page again.')

/** The accounts of all paid engines, without their keys. */
export async function accountViews(database: Database): Promise<AccountView[]> {
  const rows = await database.rows<{ engine: string, address: string }>('SELECT engine, address FROM engine_accounts')
  return engineKinds().filter(({ capabilities }) => capabilities.isPaid === true).map(({ capabilities: { id, name } }) => ({ engine: id, name, address: rows.find(({ engine }) => engine === id)?.address ?? null }))
}

const loopback: ReadonlySet<string> = new Set(['127.0.0.1', 'localhost', '[::1]'])

/** An address as it is kept. Throws a problem for one that is none, or that would send the key in clear over a network. */
export function serviceAddress(text: string): string {
  const url = URL.canParse(text.trim()) ? new URL(text.trim()) : null
  if (url === null || !['http:', 'https:'].includes(url.protocol) || url.username !== '' || url.search !== '' || url.hash !== '') fail('address-wrong', 'Write the address as https://host or https://host/path.')
  if (url.protocol === 'http:' && !loopback.has(url.hostname)) fail('address-open', 'Over http the key could be read on its way. Write https:// unless the service runs on this machine.')
  return url.href.replace(/\/$/u, '')
}

/** Sets up the account of an engine. Without a key its own stays. Throws a problem where the service would be another one under the old key. */
export async function saveAccount(database: Database, secrets: Secrets, engine: EngineId, { address: given, key }: { readonly address: string, readonly key?: string }): Promise<void> {
  const name = paidEngine(engine)
  const address = serviceAddress(given)
  const kept = await keptAccount(database, engine)
  if (key === undefined && (kept === undefined || kept.address !== address)) fail('key-missing', `Enter the key for “${name}” at this address.`)
  const sealed = key === undefined ? kept!.sealedKey : await secrets.seal(key)
  await database.sequelize.transaction(async transaction => {
    if (kept?.address === address) {
      await database.rows('UPDATE engine_accounts SET sealed_key = $2, changed_at = now() WHERE id = $1 RETURNING id', [kept.id, sealed], transaction)
      return
    }
    // Another service does not know what was asked of the one before: it is another account.
    await database.rows('DELETE FROM engine_accounts WHERE engine = $1 RETURNING id', [engine], transaction)
    await database.rows('INSERT INTO engine_accounts (id, engine, address, sealed_key) VALUES ($1, $2, $3, $4) RETURNING id', [uuidv4(), engine, address, sealed], transaction)
  })
}

/** Removes the account of an engine, with its voices. The ledger stays. */
export async function removeAccount(database: Database, engine: EngineId): Promise<void> {
  paidEngine(engine)
  await database.rows('DELETE FROM engine_accounts WHERE engine = $1 RETURNING id', [engine])
  await database.rows('DELETE FROM engine_voices WHERE engine = $1 RETURNING engine', [engine])
}

