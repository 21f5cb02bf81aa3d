import { join } from 'node:path'
import type PgBoss from 'pg-boss'
import { encoderName } from '#press/ffmpeg'
import { storedAccounts } from '#store/accounts'
import { openDatabase, type Database } from '#store/database'
import { eventsAfter, lastEventId, listenForEvents, mostEvents, type StoredEvent } from '#store/events'
import { Work } from '#services/work'
import { outage } from '#store/outage'
import { openQueue } from '#store/queue'
import { log } from '#store/log'
import { secretsIn, type Secrets } from '#store/secrets'
import { takeIndex } from '#store/take-index'
import { tidyDrafts, tidyMs, type Leftovers } from '#store/tidy'
import { sayVoices } from '#store/voices'
import type { TakeLibrary } from '#takes/library'
import { openStorage } from '#takes/open-storage'
import { Packs } from '#takes/packs'
import type { FileStorage } from '#takes/storage'
import { openEngines, type SpeechEngines } from '#voices/engines'

/** What the routes work with. One per process. */
export interface Workshop {
  readonly database: Database
  readonly queue: PgBoss
  readonly library: TakeLibrary
  /** One warm child of each, for what a user is waiting for. */
  readonly engines: SpeechEngines
  readonly secrets: Secrets
  readonly storage: FileStorage
  /** Does what can take long where it keeps nobody waiting. */
  readonly work: Work
  /** The bundled program of the guarded reader. */
  readonly readerProgram: string
  /** Calls `send` with every event of a topic after `afterId`, until the returned function is called. */
  readonly watch: (topic: string, afterId: number, send: (event: StoredEvent) => Promise<void>) => () => void
  readonly close: () => Promise<void>
}

/** Each answer asks the database several things; somebody else's long question must not keep it waiting. */
const connections = 16

let opened: Promise<Workshop> | null = null

export function workshop(): Promise<Workshop> {
  opened ??= open()
  return opened
}

/** Closes what was opened, if anything was. */
export async function closeWorkshop(): Promise<void> {
  await (await opened)?.close()
}

async function open(): Promise<Workshop> {
  const { QUILL_DATABASE_URL: url, QUILL_PROGRAMS: programs } = process.env
  if (url === undefined || programs === undefined) throw new Error('Start the server with bin/start.')
  const database = openDatabase(url, connections)
  const queue = await openQueue(url, 'server')
  const storage = await openStorage(process.env)
  const packs = new Packs(storage)
  const library = { index: takeIndex(database), packs }
  const secrets = secretsIn(process.env['QUILL_DATA']!)
  const engines = openEngines({ programs, parallel: 1, accounts: storedAccounts(database, secrets) })
  const work = new Work({ database, library, storage, engines }, join(programs, 'task-child.mjs'))
  // What would keep the first user waiting is loaded now.
  engines.list().then(sayVoices).catch((error: unknown) => { log.warn({ err: error }, 'The engines have not said which voices they have') })
  void encoderName().catch(() => undefined)
  const leftovers: Leftovers = new Map()
  const tidying = setInterval(() => {
    tidyDrafts(storage, leftovers).catch((error: unknown) => { log.warn({ err: error }, 'Drafts that were cut off could not be removed') })
  }, tidyMs)
  const watchers = new Set<() => void>()
  const listener = listenForEvents(url, () => { for (const wake of watchers) wake() })
  return {
    database, queue, engines, secrets,
    library, storage, work,
    readerProgram: join(programs, 'reader-child.mjs'),
    watch: (topic, afterId, send) => watchTopic(database, watchers, topic, afterId, send),
    close: async () => {
      clearInterval(tidying)
      await listener.close()
      work.close()
      await engines.close()
      await packs.close()
      await storage.close()
      await queue.stop({ graceful: false })
      await database.close()
    },
  }
}

function watchTopic(
  database: Database, watchers: Set<() => void>, topic: string, afterId: number, send: (event: StoredEvent) => Promise<void>,
): () => void {
  let last = afterId
  let sending: Promise<void> = Promise.resolve()
  const trouble = outage('Sending events')
  const wake = (): void => {
    sending = sending.then(async () => {
      for (let more = true; more;) {
        const events = await eventsAfter(database, topic, last)
        more = events.length === mostEvents
        const newest = events.at(-1)?.id ?? await lastEventId(database)
        if (newest < last) {
          // The database was put back to an earlier state, or has dropped its old events: whoever watches looks anew.
          last = newest
          await send({ id: last, topic, payload: { kind: 'script' } })
        }
        for (const event of events) {
          if (!watchers.has(wake)) return
          await send(event)
          last = event.id
        }
      }
      trouble.over()
    }).catch(trouble.failed)
  }
  watchers.add(wake)
  wake()
  return () => { watchers.delete(wake) }
}
