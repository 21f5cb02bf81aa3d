import { once } from 'node:events'
import { readdirSync, readFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { expect, test } from '@playwright/test'
import type { Desk, ManuscriptView } from '#shared/api'
import { address, ask, bringIn, readAll } from './support'

function status(path: string, headers: Record<string, string>, method = 'GET', body = ''): Promise<number> {
  return new Promise((resolve, reject) => {
    const sent = httpRequest(`${address()}${path}`, { method, headers }, response => {
      response.resume()
      resolve(response.statusCode ?? 0)
    })
    sent.on('error', reject)
    sent.end(body)
  })
}

test('only its own pages may speak to the server', async () => {
  expect(await status('/api/health', {})).toBe(200)
  expect(await status('/api/health', { host: 'elsewhere.example' })).toBe(403)
  expect(await status('/api/health', { origin: 'http://elsewhere.example' })).toBe(403)
  expect(await status('/', { host: 'elsewhere.example' })).toBe(403)
})

test('answers carry a strict content policy and no permission for others', async () => {
  const response = await fetch(address())
  const policy = response.headers.get('content-security-policy') ?? ''
  expect(policy).toContain('default-src \'self\'')
  expect(policy).not.toContain('unsafe-eval')
  expect(/script-src [^;]*unsafe-inline/u.test(policy)).toBe(false)
  expect(response.headers.get('access-control-allow-origin')).toBeNull()
})

const unknown = '00000000-0000-7000-8000-000000000000'
test.describe('requests that are wrong are answered with what is wrong', () => {
  for (const [method, path, body, expected] of [
    ['GET', '/api/editions/not-an-id', '', 404],
    ['GET', `/api/editions/${unknown}`, '', 404],
    ['GET', `/api/parts/${unknown}`, '', 404],
    ['GET', `/api/deliveries/${unknown}/package`, '', 404],
    ['GET', `/api/manuscripts/${unknown}`, '', 404],
    ['POST', `/api/manuscripts/${unknown}/proposal`, '{"choices":{"split":{"by":"page"}}}', 422],
    ['POST', `/api/editions/${unknown}/version`, '{}', 422],
    ['POST', '/api/manuscripts', 'x', 422],
    ['POST', '/api/manuscripts?name=a.md', '', 422],
    ['POST', '/api/editions', '{', 422],
    ['POST', '/api/editions', '{"manuscriptId":"x"}', 422],
    ['POST', `/api/editions/${unknown}/operations`, '{"operations":[]}', 422],
    ['POST', `/api/editions/${unknown}/operations`, '{"operations":[{"op":"movePart"}]}', 422],
    ['POST', '/api/samples', '{"voice":"en-gb"}', 422],
    ['POST', `/api/editions/${unknown}/operations`, '{"window":"the-window","operations":[{"op":"setHouseStyle","patch":{"sentenceRestMs":-1}}]}', 422],
    ['POST', `/api/editions/${unknown}/operations`, '{"window":"the-window","operations":[{"op":"setHouseStyle","patch":{"sentenceRestMs":1}}]}', 404],
  ] as const) {
    test(`${method} ${path} ${body}`, async () => {
      expect(await status(path, { 'content-type': 'application/json', 'content-length': String(Buffer.byteLength(body)) }, method, body)).toBe(expected)
    })
  }
})

test('a part is one WAV file of which any range can be had, the same as in the whole', async ({ page }) => {
  const production = await bringIn(page, 'Track')
  const { parts } = await (await fetch(`${address()}/api/editions/${production.split('/').at(-1)}`)).json() as Desk
  const url = `${address()}/api/parts/${parts[0]!.id}/track`
  expect((await fetch(url)).status).toBe(422)
  await readAll(production)
  const whole = Buffer.from(await (await fetch(url)).arrayBuffer())
  // Head and tail of a delivery are half a second each.
  expect(whole.length).toBe(44 + whole.readUInt32LE(40))
  expect(whole.subarray(44, 44 + 22_050).every(byte => byte === 0)).toBe(true)
  const part = await fetch(url, { headers: { range: 'bytes=50001-70000' } })
  expect([part.status, part.headers.get('content-range')]).toEqual([206, `bytes 50001-70000/${whole.length}`])
  expect(Buffer.from(await part.arrayBuffer()).equals(whole.subarray(50_001, 70_001))).toBe(true)
  expect((await fetch(url, { headers: { range: `bytes=${whole.length}-` } })).status).toBe(416)
})

test('a lost stream of events goes on where it ended', async ({ page }) => {
  const production = await bringIn(page, 'Stream')
  const id = production.split('/').at(-1)!
  const events = `${address()}/api/editions/${id}/events`
  const first = await readEvents(events, {}, 1)
  const seen = /id: (\d+)/u.exec(first)![1]!
  for (const title of ['Stream two', 'Stream three']) {
    const body = JSON.stringify({ title })
    await status(`/api/editions/${id}`, { 'content-type': 'application/json', 'content-length': String(body.length) }, 'PATCH', body)
  }
  const missed = await readEvents(events, { 'last-event-id': seen }, 3)
  expect(missed.match(/event: script/gu)).toHaveLength(2)
})

/** The text of a stream until it has so many events. */
async function readEvents(url: string, headers: Record<string, string>, count: number): Promise<string> {
  const ending = new AbortController()
  const response = await fetch(url, { headers, signal: ending.signal })
  let text = ''
  const reader = response.body!.getReader()
  while ((text.match(/\n\n/gu) ?? []).length < count) {
    const { value, done } = await reader.read()
    if (done) break
    text += Buffer.from(value).toString()
  }
  ending.abort()
  return text
}

/** The process that serves the pages of these tests. */
function serverProcess(): number {
  const { port } = new URL(address())
  const found = readdirSync('/proc').filter(name => /^\d+$/u.test(name)).find(name => {
    try {
      const environment = readFileSync(`/proc/${name}/environ`, 'utf8').split('\0')
      return readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('.output/server/index.mjs') && environment.some(entry => entry.endsWith(`PORT=${port}`))
    } catch {
      return false
    }
  })
  return Number(found)
}

const memoryMb = (pid: number): number => Number(/^VmRSS:\s+(\d+) kB$/mu.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024

test('a file of 190 MB goes to disk as it comes: the memory of the server rises by less than 50 MB', async () => {
  const pid = serverProcess()
  const before = memoryMb(pid)
  let most = before
  const watch = setInterval(() => { most = Math.max(most, memoryMb(pid)) }, 20)
  const chunk = Buffer.alloc(1024 * 1024, '%')
  const answer = await new Promise<string>((resolve, reject) => {
    const sent = httpRequest(`${address()}/api/manuscripts?name=large.pdf`, { method: 'POST' }, response => {
      let body = ''
      response.on('data', (piece: Buffer) => { body += piece.toString('utf8') })
      response.on('end', () => resolve(body))
    })
    sent.on('error', reject)
    void (async () => {
      sent.write('%PDF-1.7\n')
      for (let sentMb = 0; sentMb < 190; sentMb += 1) if (!sent.write(chunk)) await once(sent, 'drain')
      sent.end()
    })()
  })
  clearInterval(watch)
  const { id, state } = JSON.parse(answer) as ManuscriptView
  expect(state).toBe('reading')
  await ask(`manuscripts/${id}/stop`, {})
  expect(most - before).toBeLessThan(50)
})
