import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { H3Event } from 'h3'
import { log } from '#store/log'

/**
 * Answers with bytes as they come. Who goes away in the middle ends their making. When they break off, so does the connection, because the
 * headers have promised more: the other side sees that the answer is not whole. That is logged.
 */
export async function sendBytes(event: H3Event, bytes: Readable): Promise<void> {
  try {
    await pipeline(bytes, event.node.res)
  } catch (error) {
    const isGone = (error as NodeJS.ErrnoException).code === 'ERR_STREAM_PREMATURE_CLOSE' || event.node.req.socket.destroyed && !bytes.errored
    if (!isGone) log.error({ err: error, path: event.path }, 'An answer broke off')
  }
}
