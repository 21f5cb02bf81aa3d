import { createEventStream, getRequestHeader } from 'h3'
import { loadEdition } from '#store/editions'
import { lastEventId } from '#store/events'
import { idParam, route } from '../../../utils/route'

const heartbeatMs = 15_000

/** Server-sent events of an edition. `Last-Event-ID` continues where a lost connection ended. */
export default route(async (event, { database, watch }) => {
  const { edition } = await loadEdition(idParam(event))
  const lastSeen = Number(getRequestHeader(event, 'last-event-id') ?? Number.NaN)
  const from = Number.isSafeInteger(lastSeen) && lastSeen >= 0 ? lastSeen : await lastEventId(database)
  const stream = createEventStream(event)
  // Nothing reaches the browser before the first event.
  void stream.push({ event: 'ready', id: String(from), data: '{}' })
  const unwatch = watch(edition.id, from, async ({ id, payload }) => {
    await stream.push({ id: String(id), event: payload.kind, data: JSON.stringify(payload) })
  })
  const heartbeat = setInterval(() => void stream.push({ event: 'beat', data: '{}' }), heartbeatMs)
  stream.onClosed(async () => {
    clearInterval(heartbeat)
    unwatch()
    await stream.close()
  })
  return stream.send()
})
