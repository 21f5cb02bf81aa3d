import { readdir } from 'node:fs/promises'
import { request } from 'node:http'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { fileOfProfile } from '#core/delivery/profile-file'
import { profiles } from '#core/delivery/profiles'
import type { Desk, Page as ScriptPage } from '#shared/api'
import type { DeliveryDesk, OwnProfile } from '#shared/delivery'
import { address, ask, makeProduction, markdown, productionOf, readAll, takeIn } from './support'

interface Route {
  readonly method: string
  /** With `[name]` where a parameter stands. */
  readonly path: string
}

/** The routes of the server, from the names of their files. */
async function routes(): Promise<Route[]> {
  const folder = join(process.cwd(), 'server/api')
  const files = (await readdir(folder, { recursive: true })).filter(file => file.endsWith('.ts'))
  return files.flatMap(file => {
    const [, path, method] = /^(.*)\.(get|post|put|patch|delete)\.ts$/u.exec(file) ?? []
    return path === undefined ? [] : { method: method!.toUpperCase(), path: `/api/${path.replace(/\/?index$/u, '')}` }
  })
}

/** Sends bytes to a path exactly as it is written, and gives the status; the answer's body is not waited for. */
function send(method: string, path: string, body: string | Buffer = '', headers: Record<string, string> = {}): Promise<number> {
  const { hostname, port } = new URL(address())
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, method, headers: { 'content-length': String(Buffer.byteLength(body)), 'content-type': 'application/json', ...headers } }, response => {
      resolve(response.statusCode ?? 0)
      response.on('error', () => undefined)
      response.destroy()
    })
    // A server may answer and hang up before it has read a body that is too long.
    sent.on('error', (error: NodeJS.ErrnoException) => { if (error.code === 'ECONNRESET' || error.code === 'EPIPE') resolve(413); else reject(error) })
    sent.end(body)
  })
}

/** What a route does with a body that is said to have 600 MB, of which this much is sent: its status, or null when it waits for more. */
function sendHuge(method: string, path: string): Promise<number | null> {
  const { hostname, port } = new URL(address())
  const chunk = Buffer.alloc(1024 * 1024, ' ')
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, method, headers: { 'content-length': String(600 * 1024 * 1024), 'content-type': 'application/json' } }, response => {
      resolve(response.statusCode ?? 0)
      sent.destroy()
    })
    sent.on('error', (error: NodeJS.ErrnoException) => { if (error.code === 'ECONNRESET' || error.code === 'EPIPE') resolve(413); else reject(error) })
    for (let sentMb = 0; sentMb < 30; sentMb += 1) sent.write(chunk)
    setTimeout(() => {
      resolve(null)
      sent.destroy()
    }, 3_000).unref()
  })
}

test('no route takes in a body of 600 MB; those for files put what comes on the disk', async () => {
  test.setTimeout(240_000)
  const editionId = await makeProduction('Huge bodies', markdown('Huge bodies'))
  const waiting: string[] = []
  for (const { method, path } of await routes()) {
    if (method === 'GET') continue
    const query = path.endsWith('/import') ? '?name=a.csv&window=walking-window&shared=no' : '?name=a.txt'
    // Nothing that is there is removed or started: what has no limit would be seen before that.
    const filled = path.replace(/\/editions\/\[id\]\/(sounds|cover)/u, `/editions/${editionId}/$1`).replace('/editions/[id]/words', `/editions/${editionId}/words`).replace('/editions/[id]/house-style', `/editions/${editionId}/house-style`)
      .replace(/\[\w+\]/gu, '00000000-0000-7000-8000-000000000000')
    const status = await sendHuge(method, `${filled}${query}`)
    if (status === null) waiting.push(`${method} ${path}`)
    else expect([status < 500, method, path]).toEqual([true, method, path])
  }
  expect(waiting.sort()).toEqual(['POST /api/editions/[id]/cover', 'POST /api/editions/[id]/sounds', 'POST /api/manuscripts'])
})

const hostileTexts = [
  '', 'x'.repeat(100_000), '\u0000', '\ud800', '../../../../etc/passwd', '..\\..\\boot.ini', '/etc/passwd', '\'; DROP TABLE takes; --', '<script>alert(1)</script>',
  '%00', '$(touch /tmp/x)', '\u202e\u0301', '__proto__', '{{7*7}}', '-1', '1e309', '9999999999999999999999',
]
const hostileValues: readonly unknown[] = [...hostileTexts, null, true, -1, 0, 1.5, 1e308, 2 ** 53, [], {}, [[]], { length: 1e9 }, { __proto__: null, constructor: { prototype: {} } }, [null], ['x', {}]]

const hostileParameters = ['not-an-id', '..%2f..%2f..%2fetc%2fpasswd', '%00', '%', '%ff%fe', '%ED%A0%80', 'x'.repeat(5000), '00000000-0000-7000-8000-000000000000', encodeURIComponent('\'; DROP TABLE takes; --')]
const hostileBodies: readonly (string | Buffer)[] = [
  '', '{', '[]', 'null', '"x"', '1', '{}', '[{}]', '{"__proto__":{"x":1}}', '{"constructor":{"prototype":{}}}', '['.repeat(100_000), '\ufeff{}', Buffer.from([0xff, 0xfe, 0x00]),
  JSON.stringify({ operations: Array.from({ length: 2000 }, () => ({ op: 'x' })) }), 'x'.repeat(5 * 1024 * 1024),
]
const hostileQueries = ['?', '?name=', '?name=a&name=b', '?level=99', '?window=x', '?%', '?a=%ff', '?__proto__=x', '?constructor[prototype]=x', `?name=${'x'.repeat(5000)}`, '?name=..%2f..%2fx.md&encoding=no-such', '?name=%00.md', '?name=a.md&encoding=__proto__',
  '?name=w.csv&window=walking-window&shared=no', '?file=x.0', '?file=00000000-0000-7000-8000-000000000000.0', '?name=w.pls&window=walking-window&shared=yes', '?name=x.wav']
const hostileHeaders: readonly Record<string, string>[] = [
  { 'range': 'bytes=9999999999999999999-' }, { 'range': 'bytes=5-1' }, { 'range': 'bytes=0-0,5-9' }, { 'range': 'x' }, { 'last-event-id': '-1' }, { 'last-event-id': '1e400' }, { 'last-event-id': '\' OR 1=1' },
  { 'content-type': 'text/xml' }, { 'content-type': 'multipart/form-data' }, { 'content-encoding': 'gzip' }, { 'if-none-match': '*' }, { 'accept': 'x/y;;;' },
]

/** Every value with one leaf, or one member, replaced by each of the hostile values. */
function* spoiled(value: unknown): Generator<unknown> {
  yield* hostileValues
  if (Array.isArray(value)) {
    for (const [index, item] of value.entries()) for (const bad of spoiled(item)) yield value.with(index, bad)
  } else if (typeof value === 'object' && value !== null) {
    for (const [name, member] of Object.entries(value)) {
      yield { ...value, [name]: undefined }
      for (const bad of spoiled(member)) yield { ...value, [name]: bad }
    }
  }
}

test('no route answers missing, wrong, oversized or hostile input with a failure of the server', async () => {
  test.setTimeout(300_000)
  const failed: string[] = []
  let asked = 0
  const probe = async (method: string, path: string, body: string | Buffer = '', headers: Record<string, string> = {}): Promise<number> => {
    asked += 1
    const status = await send(method, path, body, headers)
    if (status >= 500 || status === 0) failed.push(`${status} ${method} ${path.slice(0, 200)} ${body.toString().slice(0, 300)} ${JSON.stringify(headers)}`)
    return status
  }

  const editionId = await makeProduction('日本 “Wege” 🐝', markdown('Walked'))
  await readAll(editionId)
  const desk = await ask<Desk>(`editions/${editionId}`)
  const [first, second] = desk.parts
  const script = await ask<ScriptPage>(`parts/${first!.id}`)
  await ask(`editions/${editionId}/deliveries`, {})
  await expect.poll(async () => (await ask<DeliveryDesk>(`editions/${editionId}/run-sheet`)).deliveries[0]?.state).toBe('done')
  const delivery = (await ask<DeliveryDesk>(`editions/${editionId}/run-sheet`)).deliveries[0]!
  const { id: manuscriptId } = await takeIn('w.md', markdown('Walked two'))

  const { passages, utterances } = script
  const operation = { partId: first!.id, revision: first!.revision }
  const voice = { voice: 'en-gb', wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 }
  const choices = {
    split: { by: 'heading', level: 2 }, footnotes: 'in-place', tables: 'read', images: 'read', from: 'both', hints: true, opening: '{title}', restoredKinds: ['code'], restored: ['1.0'],
    begins: [1], joins: [2], labels: { 1: 'One' }, included: { 1: false }, excerpt: { sentences: 3, parts: 1, pages: ['1', '2'], each: { words: 3 } },
  }
  const bodies: Readonly<Record<string, readonly unknown[]>> = {
    'POST /api/editions': [{ manuscriptId, title: 'Walked', author: 'A', language: 'en', choices }],
    'POST /api/manuscripts/[id]/proposal': [{ choices, shown: 0 }],
    'POST /api/manuscripts/[id]/read': [{ encoding: 'utf-8', delimiter: ',', columns: { title: 'a', body: 'b' } }],
    'POST /api/editions/[id]/division': [{ split: { by: 'pattern', pattern: 'a+' } }, { split: { by: 'even', minutes: 2 } }],
    'POST /api/editions/[id]/comparison': [{ manuscriptId }],
    'POST /api/editions/[id]/version': [{ manuscriptId, window: 'walking-window', keep: [passages[1]!.id] }],
    'POST /api/editions/[id]/operations': [
      { window: 'walking-window', operations: [{ op: 'setContent', passageId: passages[1]!.id, revision: 1, content: { version: 2, runs: [{ text: 'New.', on: ['a'] }], directions: [{ id: 'a', kind: 'emphasis', level: 'strong' }] } }] },
      { window: 'walking-window', operations: [{ op: 'setHouseStyle', patch: { sentenceRestMs: 10 } }] },
      { window: 'walking-window', operations: [{ op: 'setWord', id: passages[0]!.id, shared: false, entry: { graphemes: ['a'], language: 'en', said: [{ by: 'respelling', text: 'ay' }], matchCase: true, beside: { before: ['b'] }, note: 'c' } }] },
      { window: 'walking-window', operations: [{ op: 'renamePart', ...operation, label: 'New' }] },
      { window: 'walking-window', operations: [{ op: 'includePart', ...operation, included: false }] },
      { window: 'walking-window', operations: [{ op: 'movePart', ...operation, afterPartId: second!.id }] },
      { window: 'walking-window', operations: [{ op: 'splitPart', ...operation, passageId: passages[1]!.id, label: 'New' }] },
      { window: 'walking-window', operations: [{ op: 'mergePart', ...operation, nextPartId: second!.id }] },
      { window: 'walking-window', operations: [{ op: 'divide', split: { by: 'blank', lines: 2 }, parts: [{ id: first!.id, revision: 1 }] }] },
    ],
    'POST /api/editions/[id]/undo': [{ window: 'walking-window', direction: 'undo', giveUp: manuscriptId }],
    'PUT /api/editions/[id]/casting': [voice],
    'PUT /api/editions/[id]/split': [{ split: { where: { by: 'heading', level: 2 }, aboutMs: 600_000, longestMs: 900_000, largestBytes: 50_000_000 } }],
    'PUT /api/editions/[id]/announcements': [{ announcements: { opening: '{production}', part: '{number}', closing: 'The end', role: 'Announcer', ownFiles: 'none', repeats: 'skip', intro: 'in.wav', outro: 'out.wav', soundsOf: 'part', roomTone: 'room.wav' } }],
    'PUT /api/editions/[id]/file-marks': [{ marks: [{ passageId: passages[1]!.id, mark: 'begins' }] }],
    'PATCH /api/editions/[id]': [{ title: 'T', author: 'A', language: 'en', namePattern: '{number}-{title}', nameRules: { firstNumber: 1, digits: null, letters: 'ascii', longest: 60 }, details: { narrator: 'N', year: '2031', genre: 'G', disc: '1/2', comment: 'C', copyright: 'C' } }],
    'PUT /api/deliveries/[id]/concession': [{ reason: 'It is meant.' }],
    'POST /api/profiles': [fileOfProfile(profiles.podcast)],
    'PUT /api/profiles/[id]': [fileOfProfile(profiles.book)],
    'POST /api/readings/[id]/retry': [{ keys: [utterances[0]!.key] }],
    'POST /api/samples': [{ ...voice, language: 'en', text: 'A word.' }],
  }
  const ownProfile = await ask<OwnProfile>('profiles', fileOfProfile(profiles.course))
  const real: Readonly<Record<string, string>> = {
    editions: editionId, productions: (await productionOf(editionId)).id, parts: first!.id, deliveries: delivery.id, readings: desk.reading!.id, manuscripts: manuscriptId, key: utterances[0]!.key, number: '1', sound: manuscriptId, form: 'html', profiles: ownProfile.id,
  }
  const all = await routes()
  expect(all.length).toBeGreaterThan(25)
  const takesBody = new Set(Object.keys(bodies))
  // What removes the production comes last.
  for (const { method, path } of all.sort((a, b) => Number(a.method === 'DELETE') - Number(b.method === 'DELETE'))) {
    const kind = path.split('/')[2]!
    const filled = path.replace(/\[(\w+)\]/gu, (_, name: string) => real[name === 'id' ? kind : name]!)
    const others = path.includes('[') ? hostileParameters.flatMap(bad => [path.replace(/\[id\]/u, bad), filled.replace(/[^/]+$/u, bad)]) : []
    for (const other of [...others, `/api/../../..${path}`, `${path}/`, `${path}%00`]) await probe(method, other.replace(/\[\w+\]/gu, 'x'), method === 'GET' ? '' : '{}')
    for (const other of ['POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS', 'TRACE']) if (!all.some(each => each.path === path && each.method === other)) expect([await probe(other, filled, '{}'), other, path]).toEqual([404, other, path])
    for (const query of hostileQueries) await probe(method, `${filled}${query}`, method === 'GET' ? '' : 'x')
    for (const headers of hostileHeaders) await probe(method, filled, method === 'GET' ? '' : '{}', headers)
    if (method === 'GET' || method === 'DELETE') continue
    for (const body of hostileBodies) await probe(method, filled, body)
    if (path.endsWith('/import')) for (const text of hostileTexts) await probe(method, `${filled}?name=w.csv&window=walking-window&shared=no`, `written,how,said\n"${text}",alias,"${text}"\n`)
    takesBody.delete(`${method} ${path}`)
    for (const body of bodies[`${method} ${path}`] ?? []) for (const bad of spoiled(body)) await probe(method, filled, JSON.stringify(bad) ?? '')
  }
  expect([...takesBody]).toEqual([])
  expect(asked).toBeGreaterThan(2000)
  expect(failed).toEqual([])
})
