import { readFile, readdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { BucketStorage } from '../../../takes/bucket-storage'
import { openStorage } from '../../../takes/open-storage'
import { Packs } from '../../../takes/packs'
import type { FileStorage } from '../../../takes/storage'
import { startBucket, type BucketService } from '../../support/bucket'
import { temporaryFolder } from '../../support/paths'
import { newTake } from '../../support/takes'

const folder = temporaryFolder()
const text = (bytes: Uint8Array): string => Buffer.from(bytes).toString('utf8')
const namesIn = async (storage: FileStorage, path: string): Promise<string[]> => (await storage.list(path)).map(file => file.name).sort()

let service: BucketService
const before = { ...process.env }
beforeAll(async () => {
  service = await startBucket()
  Object.assign(process.env, service.environment)
})
afterAll(async () => {
  process.env = before
  await service.stop()
})

describe.each(['folder', 'bucket'] as const)('a %s', kind => {
  let storage: FileStorage
  let data: string
  beforeAll(async () => {
    data = join(folder(), kind)
    storage = await openStorage({ QUILL_DATA: data, ...(kind === 'bucket' ? service.environment : {}) })
  })
  afterAll(() => storage.close())

  test('gives back what was put in it, whole and in stretches', async () => {
    await storage.put('takes/ä b.pack', Buffer.from('0123456789'))
    expect(text(await storage.read('takes/ä b.pack', 3, 4))).toBe('3456')
    expect(text(await storage.read('takes/ä b.pack', 8, 4))).toBe('89')
    expect(text(await buffer((await storage.stream('takes/ä b.pack'))!))).toBe('0123456789')
    expect(await storage.withLocal('takes/ä b.pack', path => readFile(path, 'utf8'))).toBe('0123456789')
    expect(await storage.find('takes/ä b.pack')).toMatchObject({ name: 'takes/ä b.pack', bytes: 10, names: 1 })
    const { version } = (await storage.find('takes/ä b.pack'))!
    await storage.put('takes/ä b.pack', Buffer.from('012345678x'))
    expect((await storage.find('takes/ä b.pack'))!.version).not.toBe(version)
  })

  // Examples of FIPS 180-2, B.1 and B.3.
  test.each([
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
    ['a'.repeat(1_000_000), 'cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0'],
  ])('tells the checksum of a file (%#)', async (content, sha256) => {
    await storage.put('takes/summed', Buffer.from(content))
    expect(await storage.sha256('takes/summed')).toBe(sha256)
  })

  test('says that a file is not there', async () => {
    expect(await storage.find('takes/gone')).toBeNull()
    expect(await storage.sha256('takes/gone')).toBeNull()
    expect(await storage.stream('takes/gone')).toBeNull()
    expect(await storage.read('takes/gone', 0, 4)).toHaveLength(0)
    expect(await storage.list('nothing')).toEqual([])
    await storage.remove('takes/gone')
    await storage.put('takes/short', Buffer.from('ab'))
    expect(await storage.read('takes/short', 2, 4)).toHaveLength(0)
    expect(await storage.read('takes/short', 0, 0)).toHaveLength(0)
    await expect(storage.withLocal('takes/gone', path => readFile(path))).rejects.toThrow()
  })

  test('has a draft only when that is finished, under its own name or another', async () => {
    const [kept, renamed, dropped] = [await storage.draft('deliveries/1/a'), await storage.draft('deliveries/1/b'), await storage.draft('deliveries/1/c')]
    for (const draft of [kept, renamed, dropped]) await writeFile(draft.path, 'draft')
    await kept.settle()
    expect((await namesIn(storage, 'deliveries')).filter(name => !name.endsWith('.part'))).toEqual([])
    await kept.commit()
    await renamed.commit('manuscripts/b')
    for (const draft of [kept, renamed, dropped]) await draft.discard()
    expect(await namesIn(storage, 'deliveries')).toEqual(['deliveries/1/a'])
    expect(await namesIn(storage, 'manuscripts')).toEqual(['manuscripts/b'])
    expect((await readdir(data, { recursive: true })).filter(name => name.endsWith('.part'))).toEqual([])
  })

  test('copies a file over another, and removes one without the other', async () => {
    await storage.put('deliveries/2/a', Buffer.from('first'))
    await storage.put('deliveries/3/a', Buffer.from('other'))
    await storage.copy('deliveries/2/a', 'deliveries/3/a')
    await storage.remove('deliveries/2/a')
    expect(await namesIn(storage, 'deliveries/2')).toEqual([])
    expect(text(await storage.read('deliveries/3/a', 0, 9))).toBe('first')
  })

  test('holds packs: what was appended is read by range, rewritten without what is not wanted, and sealed', async () => {
    const packs = new Packs(storage)
    const records = [...await packs.append([newTake('a', Int16Array.of(1, 2, 3)), newTake('b', Int16Array.of(-4))]), ...await packs.append([newTake('c', Int16Array.of(5, 6))])]
    expect(await Promise.all(records.map(record => packs.read(record)))).toEqual([Int16Array.of(1, 2, 3), Int16Array.of(-4), Int16Array.of(5, 6)])
    expect(new Set(records.map(record => record.pack)).size).toBe(kind === 'folder' ? 1 : 2)
    const { pack } = records[1]!
    expect(await packs.isSealed(pack)).toBe(false)
    await packs.seal(pack)
    expect(await packs.isSealed(pack)).toBe(true)
    const [moved] = await packs.rewrite(pack, [records[1]!])
    await packs.remove(pack)
    expect(await packs.read(moved!)).toEqual(Int16Array.of(-4))
    await expect(packs.read(records[0]!)).rejects.toMatchObject({ problem: { code: 'take-damaged' } })
    await packs.close()
  })
})

test('a bucket lists more files than one answer of the service holds', async () => {
  const endpoint = new URL(service.environment.QUILL_STORAGE).searchParams.get('endpoint')
  const storage = new BucketStorage({ bucket: 'narration', prefix: '', endpoint, region: 'us-east-1', namesAtOnce: 3 }, join(folder(), 'many'))
  const names = Array.from({ length: 8 }, (_, index) => `many/${index}`)
  for (const name of names) await storage.put(name, Buffer.from(name))
  expect(await namesIn(storage, 'many')).toEqual(names)
  await storage.close()
})

test('a service that does not answer is named, and nothing counts as missing because of it', async () => {
  const away = await openStorage({ QUILL_DATA: join(folder(), 'away'), QUILL_STORAGE: 's3://narration?endpoint=http://127.0.0.1:1' })
  const problem = { problem: { code: 'storage-away', message: expect.stringContaining('http://127.0.0.1:1/narration/ does not answer') as string } }
  await expect(away.room()).rejects.toMatchObject(problem)
  await expect(away.find('takes/a')).rejects.toMatchObject(problem)
  await expect(new Packs(away).read({ ...newTake('a', Int16Array.of(1)), sampleCount: 1, pack: 'a', offset: 0, checksum: 0 })).rejects.toMatchObject(problem)
  await away.close()
})

test('a bucket that is not there is named, and so is a setting that names none', async () => {
  const none = await openStorage({ QUILL_DATA: folder(), QUILL_STORAGE: service.environment.QUILL_STORAGE.replace('narration', 'no-such-bucket') })
  await expect(none.room()).rejects.toMatchObject({ problem: { code: 'storage-away', message: expect.stringContaining('no-such-bucket') as string } })
  await none.close()
  const remedy = { problem: { code: 'storage-unnamed', message: expect.stringContaining('Write it as') as string } }
  for (const address of ['narration', 'http://127.0.0.1/narration', 's3://', 's3://narration?endpoint=here']) await expect(openStorage({ QUILL_DATA: folder(), QUILL_STORAGE: address })).rejects.toMatchObject(remedy)
  await expect(openStorage({ QUILL_DATA: undefined })).rejects.toMatchObject({ problem: { code: 'storage-unnamed' } })
})
