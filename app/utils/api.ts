import { shallowRef } from 'vue'
import type { ErrorBody } from '#shared/api'
import type { Problem } from '#core/problem'

/** A request that was answered with a problem. */
export class ApiError extends Error {
  override readonly name = 'ApiError'

  constructor(readonly status: number, readonly problem: Problem, readonly body: unknown) {
    super(problem.message)
  }
}

/** The server gave no answer at all. */
export class OfflineError extends Error {
  override readonly name = 'OfflineError'

  constructor() {
    super('The server does not answer. It may have been stopped; nothing is lost.')
  }
}

/** When the server has answered last, in any way, ms of the page. */
export const answeredAt = shallowRef(0)

/** Asks the server for JSON. Rejects with `ApiError` or `OfflineError`. */
export async function ask<T>(path: string, method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE' = 'GET', body?: unknown): Promise<T> {
  const response = await send(path, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  return await response.json() as T
}

/** Sends a file as the body of a request. */
export async function sendFile<T>(path: string, file: Blob): Promise<T> {
  const response = await send(path, { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } })
  return await response.json() as T
}

/** Asks the server for bytes. */
export async function askBytes(path: string, init: RequestInit = {}): Promise<ArrayBuffer> {
  return (await send(path, init)).arrayBuffer()
}

async function send(path: string, init: RequestInit): Promise<Response> {
  const response = await fetch(path, init).catch((error: Error) => {
    throw error.name === 'AbortError' ? error : new OfflineError()
  })
  answeredAt.value = performance.now()
  if (response.ok) return response
  const body = await response.json().catch(() => null) as ErrorBody | { message?: string } | null
  const problem = body !== null && 'problem' in body
    ? body.problem
    : { code: 'http', message: `The server answered ${response.status}. Load the page again.` }
  if (problem.code === 'database-away') throw new OfflineError()
  throw new ApiError(response.status, problem, body)
}

export function messageOf(error: unknown): string {
  if (error instanceof ApiError) return error.problem.place === undefined ? error.message : `${error.message} (${error.problem.place})`
  return error instanceof Error ? error.message : String(error)
}
