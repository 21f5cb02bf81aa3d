import { setTimeout as sleep } from 'node:timers/promises'
import { ProblemError } from '#core/problem'
import { plainContent } from '#core/script/content'
import { shelf } from '../../services/shelf'
import type { Database } from '../../store/database'
import { removeProduction } from '../../store/removed'
import { PartRow, PassageRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { scoreEdition } from '../../store/score'
import { bringUpToDate, type SummariseElsewhere } from '../../store/summaries'
import { takeIndex } from '../../store/take-index'
import { ownDatabase, part, production, productionIdOf } from '../support/database'
import { takeRecord } from '../support/takes'

const { database } = ownDatabase()
const here: SummariseElsewhere = () => Promise.resolve(false)
/** More than 300 KB. */
const large = Array.from({ length: 60 }, (_, passage) => Array.from({ length: 100 }, (__, sentence) => `Sentence ${sentence} of passage ${passage} is about the bees of a village that nobody knows.`).join(' '))

async function editLast(id: string, text: string): Promise<void> {
  const part = await PartRow.findOne({ where: { editionId: id }, rejectOnEmpty: true })
  const passage = await PassageRow.findOne({ where: { partId: part.id }, order: [['rank', 'DESC']], rejectOnEmpty: true })
  await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: passage.revision, content: plainContent(text) }])
}

/** ms */
const lookMs = 50

/** What is waited for until it is opened. */
function gate(): { readonly opened: Promise<void>, readonly open: () => void } {
  let open = (): void => undefined
  const opened = new Promise<void>(resolve => { open = resolve })
  return { opened, open }
}

/** As the page does while something is pending; but for an edition that does not become ready. */
async function settledShelf(elsewhere = here, but?: string): ReturnType<typeof shelf> {
  for (;;) {
    const entries = await shelf(database(), elsewhere)
    if (!entries.some(entry => entry.pending && entry.editionId !== but)) return entries
    await sleep(lookMs)
  }
}

test('a large production is shown as it was while it is put together, nobody waits for it, and then as it is', async () => {
  const small = await production(database(), part('Small', 'A bee.'))
  const id = await production(database(), part('Large', ...large))
  const entry = (entries: Awaited<ReturnType<typeof shelf>>) => entries.find(each => each.editionId === id)!
  const before = entry(await settledShelf()).parts
  expect(before[0]).toMatchObject({ utterances: expect.any(Number) as number, exact: false })
  expect(before[0]!.utterances).toBeGreaterThan(6000)

  await editLast(id, 'One. Two. Three.')
  await editLast(small, 'Two bees. They fly.')
  const { opened, open } = gate()
  let asked = 0
  const slowly: SummariseElsewhere = async () => {
    asked += 1
    await opened
    return false
  }
  for (const _ of [1, 2, 3]) {
    const entries = await settledShelf(async (editionId, bytes) => editionId === id ? slowly(editionId, bytes) : false, id)
    expect(entry(entries)).toMatchObject({ pending: true, problem: null, parts: before })
    expect(entries.find(each => each.editionId === small)).toMatchObject({ pending: false, parts: [{ words: 5 }] })
  }
  while (asked === 0) await sleep(lookMs)
  expect(asked).toBe(1)
  open()
  await bringUpToDate(database(), id)
  const after = entry(await settledShelf()).parts
  expect(after[0]!.utterances).toBe(before[0]!.utterances - 97)

  // Takes that are made, when a reading of it ends.
  const scored = await scoreEdition(id)
  await takeIndex(database()).add(scored.parts.flatMap(({ score }) => score.utterances).map(({ key }) => takeRecord(key, { sampleCount: 30_000 })))
  await database().rows('INSERT INTO readings (id, edition_id, state) VALUES (gen_random_uuid(), $1, \'done\') RETURNING id', [id])
  expect(entry(await settledShelf()).parts[0]).toMatchObject({ missing: 0, exact: true, state: 'read' })
})

/** The database, for one look at the shelf; `before` is waited for before it is asked how far productions are read. */
function askedAfter(before: (editionIds: readonly string[]) => Promise<void>): Database {
  return {
    ...database(),
    rows: async (sql, bind, transaction) => {
      if (sql.startsWith('WITH asked AS')) await before((bind as [string[]])[0])
      return database().rows(sql, bind, transaction)
    },
  }
}

/** Enough utterances for a production that is asked about by itself. */
const many = Array.from({ length: 600 }, (_, index) => `Hive ${index} is full.`).join(' ')

test('a production that is removed while somebody looks takes nobody\'s shelf away', async () => {
  const id = await production(database(), part('Removed', many))
  await settledShelf()
  await editLast(id, many.replace('full', 'empty'))
  await bringUpToDate(database(), id)
  let removed: Promise<unknown> | null = null
  // Another who looks forgets what was kept of it.
  const entries = await shelf(askedAfter(async () => { await (removed ??= productionIdOf(id).then(own => removeProduction(database(), own)).then(() => shelf(database(), here))) }), here)
  expect(entries.find(entry => entry.editionId === id)).toMatchObject({ problem: null })
  expect((await settledShelf()).map(entry => entry.editionId)).not.toContain(id)
})

test('what was asked before a change is not shown as the state after it', async () => {
  const id = await production(database(), part('Twice', many))
  await settledShelf()
  const utterances = async (looked: ReturnType<typeof shelf>): Promise<readonly [number | undefined, boolean]> => {
    const { parts, pending } = (await looked).find(entry => entry.editionId === id)!
    return [parts[0]?.utterances, pending]
  }
  const change = async (text: string): Promise<void> => {
    await editLast(id, text)
    await bringUpToDate(database(), id)
  }
  const { opened, open } = gate()

  await change(`${many} A bee.`)
  // The title is one of them.
  expect(await utterances(shelf(askedAfter(async ids => { if (ids.includes(id)) await opened }), here))).toEqual([601, true])
  await change(`${many} A bee. And one more.`)
  // Its answer comes while the next one looks, who asks about the others too.
  const [, pending] = await utterances(shelf(askedAfter(async () => { open() }), here))
  expect(pending).toBe(true)
  expect(await utterances(settledShelf())).toEqual([603, false])
})

test('what it takes a while to find broken is shown as broken once it is known, until it is changed', async () => {
  const id = await production(database(), part('Broken', 'A bee.'))
  const found = async (elsewhere: SummariseElsewhere) => (await settledShelf(elsewhere)).find(entry => entry.editionId === id)!
  let asked = 0
  const late: SummariseElsewhere = async () => {
    asked += 1
    await sleep(200)
    throw new ProblemError({ code: 'language-unknown', message: 'No such language.' })
  }
  for (const _ of [1, 2, 3]) expect(await found(late)).toMatchObject({ pending: false, problem: { code: 'language-unknown' }, parts: [] })
  expect(asked).toBe(1)
  await editLast(id, 'Two bees.')
  expect(await found(here)).toMatchObject({ problem: null, parts: [{ words: 3 }] })
})

test('many productions that have changed are put together a few at a time', async () => {
  for (let count = 0; count < 12; count += 1) await production(database(), part(`Changed ${count}`, 'A bee.'))
  let [running, most] = [0, 0]
  await settledShelf(async () => {
    running += 1
    most = Math.max(most, running)
    await sleep(lookMs)
    running -= 1
    return false
  })
  expect(most).toBe(5)
})

test('nobody waits until the database says how far productions are read: they are shown as they were', async () => {
  const id = await production(database(), part('Small', 'A bee.'))
  await settledShelf()
  const { opened, open } = gate()
  const look = async () => (await shelf(askedAfter(() => opened), here)).find(entry => entry.editionId === id)!
  expect(await look()).toMatchObject({ pending: false, parts: [{ words: 3 }] })
  await editLast(id, 'Two bees. They fly.')
  await bringUpToDate(database(), id)
  expect(await look()).toMatchObject({ pending: true, parts: [{ words: 3 }] })
  open()
  expect((await settledShelf()).find(entry => entry.editionId === id)).toMatchObject({ parts: [{ words: 5 }] })
})

test('what failed for a while is tried again, and shown as broken until it succeeds', async () => {
  const id = await production(database(), part('Full', 'A bee.'))
  const look = async (elsewhere: SummariseElsewhere) => (await settledShelf(elsewhere)).find(entry => entry.editionId === id)!
  const full: SummariseElsewhere = () => Promise.reject(Object.assign(new Error('no space'), { code: 'ENOSPC' }))
  expect(await look(full)).toMatchObject({ problem: { code: 'disk-full' } })
  // Not at once.
  expect(await look(here)).toMatchObject({ problem: { code: 'disk-full' } })
  const real = performance.now
  performance.now = () => real.call(performance) + 6_000
  try {
    const { opened, open } = gate()
    expect(await look(async () => {
      await opened
      return false
    })).toMatchObject({ problem: { code: 'disk-full' }, pending: false })
    open()
    while ((await look(here)).problem !== null) await sleep(lookMs)
    expect(await look(here)).toMatchObject({ problem: null, parts: [{ words: 3 }] })
  } finally {
    performance.now = real
  }
})
