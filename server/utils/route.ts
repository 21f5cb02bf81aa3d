import { Ajv, type ValidateFunction } from 'ajv'
import addFormatsModule from 'ajv-formats'
import { createError, defineEventHandler, getQuery, getRouterParam, isError, readRawBody, setResponseStatus, type EventHandler, type H3Event } from 'h3'
import { v7 as uuidv7 } from 'uuid'
import { isLanguageTag, languageTagFormat, notALanguage } from '#core/language/tag'
import { asProblem, fail, ProblemError } from '#core/problem'
import type { ErrorBody } from '#shared/api'
import { isDatabaseAway } from '#store/database'
import { log } from '#store/log'
import { workshop, type Workshop } from './workshop'

// The package exports its function under `default` or as itself, depending on who loads it.
const addFormats = ((addFormatsModule as { default?: unknown }).default ?? addFormatsModule) as (ajv: Ajv) => Ajv
const ajv = addFormats(new Ajv({ discriminator: true, verbose: true, code: { optimize: false } })).addFormat(languageTagFormat, isLanguageTag)
const maximumBodyBytes = 4 * 1024 * 1024

const statusOfCode: Readonly<Record<string, number>> = {
  'not-found': 404, 'body-too-large': 413, 'file-too-large': 413, 'delivery-not-done': 409, 'delivery-fails': 409, 'profile-in-use': 409, 'reading-running': 409, 'delivery-running': 409, 'storage-busy': 409, 'sound-in-use': 409, 'intake-not-done': 409, 'last-edition': 409, 'disk-full': 507, 'storage-away': 503,
}

/** A route: what it throws becomes an answer with a problem, without internals. */
export function route<T>(handle: (event: H3Event, shop: Workshop) => Promise<T>): EventHandler {
  return defineEventHandler(async (event): Promise<T | ErrorBody> => {
    const about = { request: uuidv7(), method: event.method, path: event.path }
    const began = performance.now()
    try {
      const answer = await handle(event, await workshop())
      if (event.method !== 'GET') log.info({ ...about, ms: Math.round(performance.now() - began) }, 'Answered')
      return answer
    } catch (error) {
      if (isError(error)) throw error
      const known = asProblem(error)
      if (known instanceof ProblemError) {
        setResponseStatus(event, statusOfCode[known.problem.code] ?? 422)
        return { problem: known.problem }
      }
      log.error({ err: error, ...about }, 'A request failed')
      if (isDatabaseAway(error)) {
        setResponseStatus(event, 503)
        return { problem: { code: 'database-away', message: 'The database does not answer just now. It is started again by itself: try again in a moment.' } }
      }
      setResponseStatus(event, 500)
      return { problem: { code: 'internal', message: `Something went wrong on the server; nothing was changed. Try again. In the log it is request ${about.request}.` } }
    }
  })
}

/** The body of a request, at most so long (bytes). Throws a problem, that names it as `what`, before anything of a longer one is read. */
export async function rawBody(event: H3Event, maximumBytes: number, what: string): Promise<Buffer> {
  const declared = Number(event.node.req.headers['content-length'] ?? Number.NaN)
  if (!(declared <= maximumBytes)) fail('body-too-large', `${what} has no length or more than ${maximumBytes / 1024 / 1024} MB.`)
  return await readRawBody(event, false) ?? Buffer.alloc(0)
}

function checkOf<T = unknown>(schema: object): ValidateFunction<T> {
  const validate = ajv.compile<T>(schema)
  // A function is compiled when it is called first. These are long ones: that happens now, not while somebody waits.
  validate({})
  return validate
}

/** Makes a parser of bodies: JSON within the size limit that the schema accepts. */
export function bodyOf<T>(schema: object): (event: H3Event) => Promise<T> {
  const validate = checkOf<T>(schema)
  return async event => {
    const body = await rawBody(event, maximumBodyBytes, 'The request')
    let value: unknown
    try {
      value = JSON.parse(body.toString('utf8'))
    } catch {
      fail('body-broken', 'The request is not valid JSON.')
    }
    return accepted(validate, value)
  }
}

/** Makes a parser of query parameters. */
export function queryOf<T>(schema: object): (event: H3Event) => T {
  const validate = checkOf<T>(schema)
  return event => accepted(validate, getQuery(event))
}

function accepted<T>(validate: ValidateFunction<T>, value: unknown): T {
  return validate(value) ? value : fail('request-wrong', faultOf(validate, 'The request'))
}

function faultOf({ errors }: ValidateFunction, whole: string): string {
  const [error] = errors ?? []
  if (error?.keyword === 'format' && error.schema === languageTagFormat) return notALanguage(String(error.data))
  const place = error?.instancePath.slice(1).replace(/\//gu, '.')
  return `${place === undefined || place === '' ? whole : place} ${error?.message ?? 'is not accepted'}.`
}

/** Makes a check of values from a file: what is wrong with one, or null. */
export function faultIn(schema: object): (value: unknown) => string | null {
  const validate = checkOf(schema)
  return value => validate(value) ? null : faultOf(validate, 'It')
}

/** A path parameter that must be a UUID. Anything else is not found. */
export function idParam(event: H3Event, name = 'id'): string {
  const value = getRouterParam(event, name) ?? ''
  if (!/^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/iu.test(value)) throw createError({ statusCode: 404, message: 'Not found' })
  return value
}
