import { randomUUID } from 'node:crypto'
import { open, readdir, readFile, stat, writeFile } from 'node:fs/promises'
import { request as httpRequest } from 'node:http'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import type { Desk, ErrorBody, ManuscriptView, Page as ScriptPage, ShelfEntry, StorageView } from '#shared/api'
import type { DeliveryDesk } from '#shared/delivery'
import { address, ask, inDatabase, makeProduction, markdown, readAll, removeProductionOf, soundRate, takeIn, wavFile } from './support'

const data = (): string => process.env['QUILL_TEST_DATA']!

/** What a request that must fail is answered with. */
async function refusal(path: string, body: unknown, method = 'POST'): Promise<[status: number, code: string]> {
  const response = await fetch(`${address()}/api/${path}`, { method, body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' } })
  return [response.status, (await response.json() as ErrorBody).problem.code]
}

const deliver = async (editionId: string): Promise<DeliveryDesk['deliveries'][number]> => {
  await ask(`editions/${editionId}/deliveries`, {})
  await expect.poll(async () => (await ask<DeliveryDesk>(`editions/${editionId}/run-sheet`)).deliveries[0]?.state, { timeout: 30_000 }).toBe('done')
  return (await ask<DeliveryDesk>(`editions/${editionId}/run-sheet`)).deliveries[0]!
}

test.describe('language tags', () => {
  for (const language of ['en-', 'en-U', '12', 'constructor', 'e', 'en_GB']) {
    test(`“${language}” is refused at every place that takes one`, async () => {
      const { id } = await takeIn('tags.md', markdown('Tags'))
      const editionId = await makeProduction('Tags two', markdown('Tags two'))
      const { parts } = await ask<Desk>(`editions/${editionId}`)
      const { passages } = await ask<ScriptPage>(`parts/${parts[0]!.id}`)
      const [passage] = passages
      const operation = (more: object) => ({ window: 'tags-window', operations: [more] })
      const entry = { graphemes: ['a'], language, said: [{ by: 'alias', text: 'b' }] }
      const content = { version: 2, runs: [{ text: 'New.', on: ['a'] }], directions: [{ id: 'a', kind: 'language', language }] }
      for (const [path, body, method] of [
        ['editions', { manuscriptId: id, title: 'T', language }],
        [`editions/${editionId}`, { language }, 'PATCH'],
        [`manuscripts/${id}/house-style`, { houseStyle: 'book', language, choices: {} }],
        [`editions/${editionId}/sayable`, { ph: 'a', language }],
        [`editions/${editionId}/operations`, operation({ op: 'setPassage', passageId: passage!.id, revision: 1, language })],
        [`editions/${editionId}/operations`, operation({ op: 'setContent', passageId: passage!.id, revision: 1, content })],
        [`editions/${editionId}/operations`, operation({ op: 'setWord', id: passage!.id, shared: false, entry })],
      ] as const) expect([...await refusal(path, body, method), path]).toEqual([422, 'request-wrong', path])
      expect((await ask<Desk>(`editions/${editionId}`)).language).toBe('en')
    })
  }

  /** As the page does while something is put together. */
  async function settledShelf(): Promise<readonly ShelfEntry[]> {
    let shelf: readonly ShelfEntry[] = []
    await expect.poll(async () => {
      shelf = await ask<ShelfEntry[]>('editions')
      return shelf.some(entry => entry.pending)
    }).toBe(false)
    return shelf
  }

  test('one production that is broken is shown as broken, and nothing else is', async ({ page }) => {
    const [broken, sound] = [await makeProduction('Broken', markdown('Broken')), await makeProduction('Sound', markdown('Sound'))]
    // As an earlier release let it in.
    await inDatabase('UPDATE editions SET language = \'en-\' WHERE id = $1', [broken])
    try {
      const shelf = await settledShelf()
      expect(shelf.find(entry => entry.editionId === sound)).toMatchObject({ problem: null, parts: [expect.anything(), expect.anything(), expect.anything()] })
      expect(shelf.find(entry => entry.editionId === broken)).toMatchObject({ title: 'Broken', problem: { code: 'language-unknown' }, parts: [] })
      await ask<Desk>(`editions/${sound}`)
      const takes = (await ask<StorageView>('storage')).kinds.find(kind => kind.id === 'takes')!
      expect(takes).toMatchObject({ freeable: null, problem: { code: 'production-broken' } })
      expect(await refusal('storage/free', { kind: 'takes' })).toEqual([422, 'production-broken'])
      await page.goto(address())
      const card = page.getByRole('listitem').filter({ hasText: 'Broken' })
      await expect(card).toContainText('“en-” is not a language tag')
      await expect(page.getByRole('listitem').filter({ hasText: 'Sound' })).toContainText('to read')
      // What is wrong can be put right.
      await ask(`editions/${broken}`, { language: 'en' }, 'PATCH')
      expect((await settledShelf()).find(entry => entry.editionId === broken)).toMatchObject({ problem: null })
    } finally {
      await removeProductionOf(broken)
    }
  })
})

test.describe('damage', () => {
  /** Overwrites the middle of every pack that holds some audio. */
  async function damagePacks(): Promise<void> {
    for (const name of (await readdir(join(data(), 'takes'))).filter(each => each.endsWith('.pack'))) {
      const { size } = await stat(join(data(), 'takes', name))
      const file = await open(join(data(), 'takes', name), 'r+')
      for (let at = 0; at < size; at += 1000) await file.write(Buffer.from([0x55, 0xaa, 0x55, 0xaa]), 0, 4, at)
      await file.close()
    }
  }

  test('a listener of damaged takes hears what was there, because they are made again', async () => {
    const editionId = await makeProduction('Damaged', markdown('Damaged'))
    await readAll(editionId)
    const { parts } = await ask<Desk>(`editions/${editionId}`)
    const url = `${address()}/api/parts/${parts[0]!.id}/track`
    const before = Buffer.from(await (await fetch(url)).arrayBuffer())
    await damagePacks()
    const after = Buffer.from(await (await fetch(url, { signal: AbortSignal.timeout(20_000) })).arrayBuffer())
    expect(after.equals(before)).toBe(true)
    await fetch(`${address()}/api/parts/${parts[1]!.id}/peaks`).then(answer => expect(answer.status).toBe(200))
  })

  test('an answer that cannot go on ends the connection, instead of keeping the listener for ever', async () => {
    const editionId = await makeProduction('Lost', markdown('Lost'))
    expect((await fetch(`${address()}/api/editions/${editionId}/sounds?name=beep.wav`, { method: 'POST', body: beep() })).status).toBe(201)
    const { parts } = await ask<Desk>(`editions/${editionId}`)
    const { passages } = await ask<ScriptPage>(`parts/${parts[0]!.id}`)
    const last = passages.at(-1)!
    const content = { version: 2, runs: [{ text: 'It plays here: ', on: [] }, { text: '', on: [], point: 's' }, { text: ' and goes on.', on: [] }], directions: [{ id: 's', kind: 'sound', sound: 'beep.wav' }] }
    await ask(`editions/${editionId}/operations`, { window: 'lost-window', operations: [{ op: 'setContent', passageId: last.id, revision: last.revision, content }] })
    await readAll(editionId)
    await damagePacks()
    const answer = fetch(`${address()}/api/parts/${parts[0]!.id}/track`, { signal: AbortSignal.timeout(20_000) }).then(response => response.arrayBuffer())
    await expect(answer).rejects.toThrow(/terminated|aborted by|other side closed/u)
    await expect(answer).rejects.not.toThrow(/timeout/u)
  })

  test('a delivered file that something has changed or removed is not handed out, and is named', async ({ page }) => {
    const editionId = await makeProduction('Altered', markdown('Altered'))
    await readAll(editionId)
    const delivery = await deliver(editionId)
    const folder = join(data(), 'deliveries', delivery.id)
    expect((await fetch(`${address()}/api/deliveries/${delivery.id}/files/1`)).status).toBe(200)
    const bytes = await readFile(join(folder, delivery.files[0]!.name))
    bytes[5000]! ^= 0xff
    await writeFile(join(folder, delivery.files[0]!.name), bytes)
    const answer = await fetch(`${address()}/api/deliveries/${delivery.id}/files/1`)
    expect([answer.status, (await answer.json() as ErrorBody).problem.code]).toEqual([422, 'delivery-file-altered'])
    expect((await fetch(`${address()}/api/deliveries/${delivery.id}/package`)).status).toBe(422)
    await page.goto(`${address()}/productions/${editionId}/delivery`)
    await expect(page.getByRole('row', { name: delivery.files[0]!.name }).first()).toContainText('damaged on the disk')
    // Made again, it is the one that it was.
    const again = await deliver(editionId)
    expect((await fetch(`${address()}/api/deliveries/${again.id}/package`)).status).toBe(200)
    expect(await readFile(join(data(), 'deliveries', again.id, again.files[0]!.name)).then(made => made.length)).toBe(bytes.length)
  })
})

test.describe('many at once', () => {
  test('24 files that are brought in at once are all read, and say whose turn it is', async () => {
    const begun = await Promise.all(Array.from({ length: 24 }, async (_, index) => {
      const response = await fetch(`${address()}/api/manuscripts?name=at-once-${index}.md`, { method: 'POST', body: markdown(`At once ${index}`) })
      return await response.json() as ManuscriptView
    }))
    expect(Math.max(...begun.map(document => document.ahead))).toBeGreaterThan(3)
    // One that waits is stopped at once.
    const last = begun.find(document => document.ahead > 10)!
    expect(await ask<ManuscriptView>(`manuscripts/${last.id}/stop`, {})).toMatchObject({ state: 'stopped', problem: { code: 'intake-stopped' } })
    for (const { id } of begun.filter(document => document !== last)) {
      await expect.poll(async () => (await ask<ManuscriptView>(`manuscripts/${id}`)).state, { timeout: 60_000, intervals: [50] }).not.toBe('reading')
      expect(await ask<ManuscriptView>(`manuscripts/${id}`)).toMatchObject({ state: 'ready', problem: null, ahead: 0 })
    }
  })

  test('a production that is asked for twice is made once', async () => {
    const { id } = await takeIn('twice.md', markdown('Twice'))
    const request = { manuscriptId: id, title: 'Twice', language: 'en' }
    const made = await Promise.all(Array.from({ length: 5 }, () => ask<{ editionId: string }>('editions', request)))
    expect(new Set(made.map(each => each.editionId)).size).toBe(1)
    const other = await ask<{ editionId: string }>('editions', { ...request, title: 'Twice, otherwise' })
    expect(other.editionId).not.toBe(made[0]!.editionId)
    await removeProductionOf(made[0]!.editionId)
    expect((await ask<{ editionId: string }>('editions', request)).editionId).not.toBe(made[0]!.editionId)
  })
})

test.describe('names', () => {
  test('one that is only a stroke is no name of a sound or a document', async () => {
    const editionId = await makeProduction('Names', markdown('Names'))
    for (const name of ['/', '//', '..', '.', '\\']) {
      expect(await refusal(`editions/${editionId}/sounds?name=${encodeURIComponent(name)}`, 'x')).toEqual([422, 'name-missing'])
      expect(await refusal(`manuscripts?name=${encodeURIComponent(name)}`, 'x')).toEqual([422, 'name-missing'])
    }
  })

  test('that every object has are names like any others: of roles, sounds, ways to say a word', async () => {
    const editionId = await makeProduction('Own names', markdown('Own names'))
    const { parts } = await ask<Desk>(`editions/${editionId}`)
    const { passages: [passage] } = await ask<ScriptPage>(`parts/${parts[0]!.id}`)
    for (const name of ['constructor', '__proto__', 'toString', 'hasOwnProperty']) {
      const role = randomUUID()
      const directions = [{ id: 'a', kind: 'role', role }, { id: 'b', kind: 'sayAs', interpretAs: name }]
      const content = { version: 2, runs: [{ text: `5 ${name}`, on: ['a', 'b'] }, { text: '', on: [], point: 's' }], directions: [...directions, { id: 's', kind: 'sound', sound: name }] }
      const { revision } = (await ask<ScriptPage>(`parts/${parts[0]!.id}`)).passages[0]!
      await ask(`editions/${editionId}/operations`, { window: 'names-window', operations: [{ op: 'makeRole', id: role, name }, { op: 'setContent', passageId: passage!.id, revision, content }] })
      expect((await ask<Desk>(`editions/${editionId}`)).roles.map(role => role.name)).toContain(name)
      await ask<ScriptPage>(`parts/${parts[0]!.id}`)
    }
  })

  test('of files stay within what a disk takes, however long their pattern makes them', async () => {
    const editionId = await makeProduction('A production with a rather long title for its files', markdown('A production with a rather long title for its files'))
    await ask(`editions/${editionId}`, { namePattern: `{number}${'{title}'.repeat(14)}` }, 'PATCH')
    await readAll(editionId)
    const { files, state } = await deliver(editionId)
    expect(state).toBe('done')
    expect(Math.max(...files.map(file => file.name.length))).toBeLessThanOrEqual(244)
  })
})

test('a copied house style leaves none behind that nobody has', async () => {
  const editionId = await makeProduction('Copied', markdown('Copied'))
  const unused = async (): Promise<number> => (await ask<{ productions: number }[]>('house-styles')).filter(style => style.productions === 0).length
  const before = await unused()
  for (let copy = 0; copy < 3; copy += 1) await ask(`editions/${editionId}/operations`, { window: 'a-window-that-copies', operations: [{ op: 'copyHouseStyle' }] })
  expect(await unused()).toBe(before)
})

test('an open page hears of changes after the database was put back to an earlier state', async () => {
  const editionId = await makeProduction('Put back', markdown('Put back'))
  const heard: string[] = []
  const stream = httpRequest(`${address()}/api/editions/${editionId}/events`, response => {
    response.on('data', (piece: Buffer) => { heard.push(...piece.toString().match(/event: \w+/gu) ?? []) })
  })
  stream.on('error', () => undefined)
  stream.end()
  await expect.poll(() => heard).toContain('event: ready')
  await inDatabase('TRUNCATE events RESTART IDENTITY')
  const count = (): number => heard.filter(each => each === 'event: script').length
  for (const title of ['Put back once', 'Put back twice', 'Put back thrice']) {
    const before = count()
    await ask(`editions/${editionId}`, { title }, 'PATCH')
    await expect.poll(count, { timeout: 10_000 }).toBeGreaterThan(before)
  }
  stream.destroy()
})

/** A short sound as WAV. */
function beep(): Uint8Array<ArrayBuffer> {
  return wavFile(Int16Array.from({ length: soundRate }, (_, at) => Math.round(Math.sin(at / 8) * 9000)))
}
