import { randomUUID } from 'node:crypto'
import { link, mkdir, readdir, utimes, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { endDelivery, startDelivery } from '../../store/deliveries'
import { folders } from '../../store/folders'
import { DeliveryRow, ManuscriptRow } from '../../store/models'
import { usePieces } from '../../store/pieces'
import { startReading, stopReading } from '../../store/readings'
import { scoreEdition, takesOfParts as keysOf } from '../../store/score'
import { compactPacks, freeStorage, storageView } from '../../store/storage'
import { takeIndex } from '../../store/take-index'
import { tidy, tidyDrafts, type Leftovers } from '../../store/tidy'
import { Packs } from '../../takes/packs'
import { FolderStorage } from '../../takes/folder-storage'
import { pieceFile } from '../../takes/piece-file'
import { storeTakes } from '../../takes/store-takes'
import type { TakeIndex } from '../../takes/take'
import { ownDatabase, part, production, removedForGood } from '../support/database'
import { temporaryFolder } from '../support/paths'
import { newTake } from '../support/takes'

const { database } = ownDatabase()
const folder = temporaryFolder()
let index: TakeIndex
let root: string
let storage: FolderStorage
let packs: Packs
const hour = 60 * 60_000

beforeAll(() => { index = takeIndex(database()) })
beforeEach(async () => {
  await database().rows('DELETE FROM productions')
  await database().rows('DELETE FROM takes')
  await database().rows('DELETE FROM manuscripts')
  root = join(folder(), randomUUID())
  for (const name of Object.values(folders)) await mkdir(join(root, name), { recursive: true })
  storage = new FolderStorage(root)
  packs = new Packs(storage)
})
afterEach(async () => {
  await packs.close()
  await storage.close()
})

const samplesOf = (number: number): Int16Array => new Int16Array(1000).fill(number + 1)

async function store(keys: readonly string[]): Promise<void> {
  await index.add(await packs.append(keys.map((key, number) => newTake(key, samplesOf(number)))))
}

/** Makes everything below the folders look as old as this. */
async function age(ms: number): Promise<void> {
  for (const name of await readdir(root, { recursive: true })) await utimes(join(root, name), new Date(), new Date(Date.now() - ms))
}

const kindOf = async (id: string) => (await storageView(database(), storage)).kinds.find(kind => kind.id === id)!

async function scriptOf(...texts: string[]): Promise<{ id: string, keys: string[] }> {
  const id = await production(database(), part('Storage', ...texts))
  return { id, keys: keysOf((await scoreEdition(id)).parts) }
}

describe('takes', () => {
  test('that no script needs are counted, go, and leave the others as they were in a smaller pack', async () => {
    const { keys } = await scriptOf('Kept one.', 'Kept two.')
    const unused = Array.from({ length: 9 }, (_, number) => `unused ${number}`)
    await store([...unused.slice(0, 5), ...keys, ...unused.slice(5)])
    await age(hour)
    expect(await kindOf('takes')).toEqual({ id: 'takes', bytes: 12 * 2000, freeable: { bytes: 9 * 2000, count: 9, items: [] }, problem: null })
    expect(await freeStorage(database(), storage, packs, 'takes')).toBe(9 * 2000)
    expect(await kindOf('takes')).toMatchObject({ bytes: 3 * 2000, freeable: { count: 0 } })
    const records = await index.find(keys)
    expect(await Promise.all(keys.map(key => packs.read(records.get(key)!)))).toEqual([5, 6, 7].map(samplesOf))
    expect((await readdir(join(root, folders.takes))).every(name => name.endsWith('.pack'))).toBe(true)
  })

  test('in a pack that is still written to stay where they are until it is settled', async () => {
    await store(['unused'])
    expect(await freeStorage(database(), storage, packs, 'takes')).toBe(0)
    expect(await readdir(join(root, folders.takes))).toHaveLength(1)
    expect(await compactPacks(database(), storage, packs, Date.now() + 3 * 60_000)).toHaveLength(1)
    expect(await readdir(join(root, folders.takes))).toEqual([])
  })

  test('lose nothing when their pack is taken for left while it is still written to, as after a change of the clock', async () => {
    await store(['unused'])
    const kept = newTake('kept', samplesOf(1))
    // The pack is closed between what its writer puts on disk and what it makes known.
    const late: TakeIndex = { ...index, add: async takes => {
      await database().rows('DELETE FROM takes')
      await compactPacks(database(), storage, packs, Date.now() + hour)
      await index.add(takes)
    } }
    const [record] = await storeTakes({ index: late, packs }, [kept])
    expect((await index.find(['kept'])).get('kept')).toEqual(record)
    expect(await packs.read(record!)).toEqual(samplesOf(1))
    const [after] = await storeTakes({ index, packs }, [{ ...kept, key: 'after' }])
    expect(await packs.read(after!)).toEqual(samplesOf(1))
  })

  test('that are damaged are left out when their pack is rewritten, and count as not made', async () => {
    const { keys } = await scriptOf('Whole.', 'Damaged.')
    await store([...keys, ...Array.from({ length: 9 }, (_, number) => `unused ${number}`)])
    await database().rows('UPDATE takes SET checksum = 1 WHERE key = $1 RETURNING key', [keys[1]])
    await age(hour)
    await freeStorage(database(), storage, packs, 'takes')
    expect([...(await index.find(keys)).keys()].sort()).toEqual([keys[0]!, keys[2]!].sort())
  })

  test('cannot be freed while something is read', async () => {
    const { id } = await scriptOf('Being read.')
    const { readingId } = await startReading(database(), index, id, (await scoreEdition(id)).parts)
    await expect(freeStorage(database(), storage, packs, 'takes')).rejects.toMatchObject({ problem: { code: 'storage-busy' } })
    await stopReading(database(), readingId)
    await freeStorage(database(), storage, packs, 'takes')
  })
})

async function delivery(id: string, state: 'done' | 'failed', names: Readonly<Record<string, number>>): Promise<string> {
  const row = await DeliveryRow.findByPk(await startDelivery(database(), takeIndex(database()), await scoreEdition(id)), { rejectOnEmpty: true })
  await endDelivery(database(), row, state)
  await mkdir(join(root, folders.deliveries, row.id))
  for (const [name, bytes] of Object.entries(names)) await writeFile(join(root, folders.deliveries, row.id, name), Buffer.alloc(bytes))
  return row.id
}

test('earlier deliveries go, with what they do not share with the newest', async () => {
  const { id, keys } = await scriptOf('Delivered.')
  await store(keys)
  const [first, failed, newest] = [await delivery(id, 'done', { 'own.mp3': 300 }), await delivery(id, 'failed', { 'half.mp3': 50 }), await delivery(id, 'done', { 'shared.mp3': 700 })]
  await link(join(root, folders.deliveries, newest, 'shared.mp3'), join(root, folders.deliveries, first, 'shared.mp3'))
  expect(await kindOf('deliveries')).toEqual({ id: 'deliveries', bytes: 1050, freeable: { bytes: 350, count: 2, items: ['The Year, delivery 1', 'The Year, delivery 2'] }, problem: null })
  expect(await freeStorage(database(), storage, packs, 'deliveries')).toBe(350)
  expect(await readdir(join(root, folders.deliveries))).toEqual([newest])
  expect((await DeliveryRow.findAll()).map(row => row.id)).toEqual([newest])
  expect(failed).not.toBe(newest)
})

test('of deliveries the newest so many of each production stay', async () => {
  const { id, keys } = await scriptOf('Delivered four times.')
  await store(keys)
  const [first, second, failed, third, fourth] = [
    await delivery(id, 'done', { 'a.mp3': 100 }), await delivery(id, 'done', { 'b.mp3': 200 }), await delivery(id, 'failed', { 'half.mp3': 50 }), await delivery(id, 'done', { 'c.mp3': 300 }), await delivery(id, 'done', { 'd.mp3': 400 }),
  ]
  const going = async (kept: number): Promise<unknown> => (await storageView(database(), storage, kept)).kinds.find(kind => kind.id === 'deliveries')!.freeable
  expect(await going(1)).toMatchObject({ bytes: 650, count: 4 })
  expect(await going(3)).toEqual({ bytes: 150, count: 2, items: ['The Year, delivery 1', 'The Year, delivery 3'] })
  expect(await freeStorage(database(), storage, packs, 'deliveries', 3)).toBe(150)
  expect((await readdir(join(root, folders.deliveries))).sort()).toEqual([second, third, fourth].sort())
  expect([first, failed].every(gone => gone !== fourth)).toBe(true)
})

test('documents that were not accepted within a day go', async () => {
  const [fresh, old] = ['a', 'b'].map(letter => letter.repeat(64))
  const content = { format: 'text', title: 'T', author: null, language: 'en', languageSource: 'chosen', units: [], problems: [], blocks: [] } as const
  for (const sha256 of [fresh!, old!]) {
    await ManuscriptRow.create({ id: randomUUID(), fileName: `${sha256[0]}.txt`, sha256, content, createdAt: new Date(sha256 === old ? Date.now() - 25 * hour : Date.now()) })
    await writeFile(join(root, folders.manuscripts, sha256), 'text')
  }
  expect(await kindOf('documents')).toMatchObject({ bytes: 8, freeable: { bytes: 4, count: 1, items: ['b.txt'] } })
  await freeStorage(database(), storage, packs, 'documents')
  expect(await readdir(join(root, folders.manuscripts))).toEqual([fresh])
})

describe('encoded pieces', () => {
  const write = async (key: string, bytes: number): Promise<void> => {
    await mkdir(join(root, dirname(pieceFile(key))), { recursive: true })
    await writeFile(join(root, pieceFile(key)), Buffer.alloc(bytes))
  }
  beforeEach(() => database().rows('DELETE FROM pieces'))

  test('go when they are freed', async () => {
    await write('aa1', 100)
    await write('bb2', 50)
    await usePieces(database(), ['aa1', 'bb2', 'aa1'])
    expect(await kindOf('pieces')).toEqual({ id: 'pieces', bytes: 150, freeable: { bytes: 150, count: 2, items: [] }, problem: null })
    expect(await freeStorage(database(), storage, packs, 'pieces')).toBe(150)
    expect(await kindOf('pieces')).toMatchObject({ bytes: 0, freeable: { count: 0 } })
  })

  test('go when no delivery has used them for 30 days, or ever', async () => {
    for (const key of ['aa1', 'bb2', 'cc3']) await write(key, 10)
    await usePieces(database(), ['aa1', 'bb2'])
    await database().rows('UPDATE pieces SET used_at = now() - interval \'31 days\' RETURNING key')
    await usePieces(database(), ['aa1'])
    const leftovers: Leftovers = new Map()
    expect(await tidy(database(), storage, packs, leftovers, 0)).toEqual([pieceFile('bb2')])
    expect(await tidy(database(), storage, packs, leftovers, hour)).toEqual([pieceFile('cc3')])
    expect((await storage.list(folders.pieces)).map(file => file.name)).toEqual([pieceFile('aa1')])
  })
})

test('what was cut off or belongs to nothing is removed after an hour, and nothing else', async () => {
  const { id, keys } = await scriptOf('Tidied.')
  await store(keys)
  const kept = await delivery(id, 'done', { '01.mp3': 10, '02.mp3.part': 10 })
  const gone = await scriptOf('Gone.')
  await store(gone.keys.filter(key => !keys.includes(key)))
  const lost = await delivery(gone.id, 'done', { '01.mp3': 10 })
  await removedForGood(database(), gone.id)
  await writeFile(join(root, folders.manuscripts, `${randomUUID()}.part`), 'x')
  await writeFile(join(root, folders.takes, 'x.pack.part'), 'x')
  const leftovers: Leftovers = new Map()
  // Whatever the date of a file says: the clock may have been changed.
  await age(hour * 1000)
  expect(await tidy(database(), storage, packs, leftovers, 0)).toEqual([])
  expect(await tidy(database(), storage, packs, leftovers, hour / 2)).toEqual([])
  expect((await tidy(database(), storage, packs, leftovers, hour)).map(path => path.split('/')[0]).sort()).toEqual(['deliveries', 'deliveries', 'manuscripts', 'takes'])
  expect(await readdir(join(root, folders.deliveries), { recursive: true })).toEqual([kept, join(kept, '01.mp3')])
  expect(lost).not.toBe(kept)
  expect(await readdir(join(root, folders.takes))).toHaveLength(1)
})

test('drafts that lie on the machine of a process go in the same way', async () => {
  class Elsewhere extends FolderStorage {
    override readonly drafts = new FolderStorage(join(root, 'work'))
  }
  const elsewhere = new Elsewhere(root)
  const [cutOff, inHand] = [await elsewhere.drafts.draft('cut off'), await elsewhere.drafts.draft('in hand')]
  for (const draft of [cutOff, inHand]) await writeFile(draft.path, 'x')
  const leftovers: Leftovers = new Map()
  expect(await tidyDrafts(elsewhere, leftovers, 0)).toEqual([])
  await writeFile(inHand.path, 'more')
  expect(await tidyDrafts(elsewhere, leftovers, hour)).toEqual(['cut off.part'])
  expect(await readdir(join(root, 'work'))).toEqual(['in hand.part'])
})
