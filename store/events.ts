import pg from 'pg'
import type { Transaction } from 'sequelize'
import type { Database } from './database'
import { outage } from './outage'

/** Something that happened, for whoever watches its topic (an edition's id, or `shelf`). */
export interface StoredEvent {
  /** Grows in the order in which events became visible: who has seen one has seen all with smaller ones. */
  readonly id: number
  readonly topic: string
  readonly payload: EventPayload
}

export type EventPayload =
  | { readonly kind: 'reading', readonly readingId: string }
  /** A delivery, or without one the run sheet. */
  | { readonly kind: 'delivery', readonly deliveryId?: string }
  | { readonly kind: 'script' }
  /** Somebody listened to what was not read yet, and now it is. */
  | { readonly kind: 'takes' }

const channel = 'quill_events'
const keptFor = '1 hour'

/** Notes an event and wakes the listeners. The notification carries nothing: the table is the truth. */
export async function postEvent(database: Database, topic: string, payload: EventPayload, transaction?: Transaction): Promise<void> {
  await database.rows('INSERT INTO events (topic, payload) VALUES ($1, $2) RETURNING id', [topic, JSON.stringify(payload)], transaction)
  await database.rows(`SELECT pg_notify('${channel}', '')`, [], transaction)
}

/** Events that are given at once. */
export const mostEvents = 500

/** The events of a topic after an id, oldest first: the first of them where there are many. */
export async function eventsAfter(database: Database, topic: string, id: number): Promise<StoredEvent[]> {
  const rows = await database.rows<{ id: string, topic: string, payload: EventPayload }>(
    'SELECT ordinal AS id, topic, payload FROM events WHERE topic = $1 AND ordinal > $2 ORDER BY ordinal LIMIT $3', [topic, id, mostEvents])
  return rows.map(row => ({ ...row, id: Number(row.id) }))
}

export async function lastEventId(database: Database): Promise<number> {
  const [row] = await database.rows<{ id: string }>('SELECT coalesce(max(ordinal), 0) AS id FROM events')
  return Number(row?.id ?? 0)
}

export async function dropOldEvents(database: Database): Promise<void> {
  await database.rows(`DELETE FROM events WHERE at < now() - interval '${keptFor}' RETURNING id`)
}

/**
 * Calls `wake` whenever an event was posted, over one connection of its own that is opened again when it
 * is lost; then too, since something may have been missed.
 */
export function listenForEvents(url: string, wake: () => void): { close: () => Promise<void> } {
  let client: pg.Client | null = null
  let closed = false
  const trouble = outage('Listening for events')
  const connect = async (): Promise<void> => {
    if (closed) return
    const next = new pg.Client({ connectionString: url })
    next.on('error', trouble.failed)
    next.on('end', () => { if (!closed) setTimeout(() => void connect(), 500) })
    next.on('notification', wake)
    try {
      await next.connect()
      await next.query(`LISTEN ${channel}`)
      client = next
      trouble.over()
      wake()
    } catch (error) {
      trouble.failed(error)
      // A connection that never came up does not emit `end`.
      next.removeAllListeners('end')
      if (!closed) setTimeout(() => void connect(), 500)
    }
  }
  void connect()
  return {
    close: async () => {
      closed = true
      await client?.end()
    },
  }
}
