import { createServer, type Server } from 'node:http'
import { Ajv } from 'ajv'
import { createApp, createRouter, defineEventHandler, getHeader, readRawBody, setResponseHeader, setResponseStatus, toNodeListener, type H3Event } from 'h3'
import Papa from 'papaparse'
import { pageOf } from './page'
import { Refusal, type SpeechOrder, type SpeechService } from './service'

const isOrder = new Ajv().compile<SpeechOrder>({
  type: 'object', required: ['voice', 'ratePercent', 'pitchSemitones', 'markup'], additionalProperties: false,
  properties: { voice: { type: 'string' }, ratePercent: { type: 'number', minimum: 20, maximum: 400 }, pitchSemitones: { type: 'number', minimum: -12, maximum: 12 }, markup: { type: 'string', maxLength: 100_000 } },
})

/** A route that needs the key; a refusal becomes an answer. */
function guarded(service: SpeechService, handle: (event: H3Event) => Promise<unknown>) {
  return defineEventHandler(async event => {
    try {
      service.admit(/^Bearer (.+)$/u.exec(getHeader(event, 'authorization') ?? '')?.[1])
      return await handle(event)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      setResponseStatus(event, error.status)
      if (error.retryAfterSeconds !== null) setResponseHeader(event, 'retry-after', error.retryAfterSeconds)
      return { error: { code: error.code, message: error.message } }
    }
  })
}

async function orderOf(event: H3Event): Promise<SpeechOrder> {
  let body: unknown
  try {
    body = JSON.parse(await readRawBody(event, 'utf8') ?? '')
  } catch {
    throw new Refusal(400, 'body-broken', 'The request is not valid JSON.')
  }
  if (!isOrder(body)) throw new Refusal(400, 'order-wrong', `The request is not understood: ${isOrder.errors?.[0]?.instancePath ?? ''} ${isOrder.errors?.[0]?.message ?? ''}`)
  return body
}

/** The service as a server; whoever starts it lets it listen. */
export function serverOf(service: SpeechService): Server {
  const router = createRouter()
    .get('/', defineEventHandler(event => {
      setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
      return pageOf(service)
    }))
    .get('/bill.csv', defineEventHandler(event => {
      setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
      return Papa.unparse({ fields: ['at', 'request', 'voice', 'tier', 'characters', 'micros'], data: service.bill.entries.map(({ at, request, voice, tier, characters, micros }) => [at, request, voice, tier, characters, micros]) })
    }))
    .get('/account', guarded(service, () => Promise.resolve(service.account())))
    .get('/voices', guarded(service, () => Promise.resolve(service.voices())))
    .post('/speech', guarded(service, async event => {
      const { answer, delivery } = await service.speech(await orderOf(event), getHeader(event, 'idempotency-key') ?? null)
      if (delivery === 'whole') return answer
      const { res } = event.node
      const body = JSON.stringify(answer)
      res.writeHead(200, { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) })
      res.write(body.slice(0, body.length / 2), () => res.destroy())
      event._handled = true
      return undefined
    }))
  return createServer(toNodeListener(createApp().use(router)))
}
