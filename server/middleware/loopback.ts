import { createError, defineEventHandler } from 'h3'

const names = new Set(['127.0.0.1', 'localhost', '[::1]'])

/**
 * Only pages of this server, opened under a loopback name, may speak to it: a foreign Host is a rebound
 * name, a foreign Origin another site.
 */
export default defineEventHandler(event => {
  const { host, origin } = event.node.req.headers
  const forbidden = (): never => { throw createError({ statusCode: 403, message: 'Open this server under its own address.' }) }
  if (host === undefined || !names.has(host.replace(/:\d+$/u, ''))) forbidden()
  if (origin !== undefined && origin !== `http://${host}`) forbidden()
})
