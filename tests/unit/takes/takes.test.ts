import { readdirSync, readlinkSync } from 'node:fs'
import { appendFile, open, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { FileTakeIndex } from '../../../takes/file-index'
import type { NewTake } from '../../../takes/packs'
import { newTake, packsIn, takeRecord } from '../../support/takes'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const take = (key: string, ...samples: number[]): NewTake => newTake(key, Int16Array.from(samples), { wordMarks: [0] })

function readlinkOrNull(path: string): string | null {
  try {
    return readlinkSync(path)
  } catch {
    return null
  }
}

describe('packs', () => {
  test('give back what was appended, one pack for a process', async () => {
    const packs = packsIn(join(folder(), 'a'))
    const [first] = await packs.append([take('a', 1, 2, 3)])
    const [second, third] = await packs.append([take('b', -4, 5), take('c')])
    expect(await Promise.all([first, second, third].map(record => packs.read(record!)))).toEqual([Int16Array.of(1, 2, 3), Int16Array.of(-4, 5), new Int16Array(0)])
    expect(await readdir(join(folder(), 'a', 'takes'))).toHaveLength(1)
    await packs.close()
  })

  test('are not all kept open, however many there are', async () => {
    const path = join(folder(), 'many')
    const writers = Array.from({ length: 80 }, () => packsIn(path))
    const records = await Promise.all(writers.map(async (packs, index) => (await packs.append([take(`k${index}`, index)]))[0]!))
    await Promise.all(writers.map(packs => packs.close()))
    const packs = packsIn(path)
    const opened = (): number => readdirSync('/proc/self/fd').filter(fd => readlinkOrNull(`/proc/self/fd/${fd}`)?.startsWith(path) === true).length
    for (let round = 0; round < 2; round += 1) {
      const read = await Promise.all(records.map(record => packs.read(record)))
      expect(read.map(([sample]) => sample)).toEqual(records.map((_, index) => index))
      for (const record of records) await packs.read(record)
      expect(opened()).toBeLessThanOrEqual(32)
    }
    await packs.close()
    expect(opened()).toBe(0)
  })

  test('calls that come at once do not mix', async () => {
    const packs = packsIn(join(folder(), 'b'))
    const records = await Promise.all(Array.from({ length: 20 }, (_, index) => packs.append([take(String(index), index, index)])))
    const samples = await Promise.all(records.flat().map(record => packs.read(record)))
    expect(samples).toEqual(Array.from({ length: 20 }, (_, index) => Int16Array.of(index, index)))
    await packs.close()
  })

  test('a damaged or missing take is noticed', async () => {
    const packs = packsIn(join(folder(), 'c'))
    const [record] = await packs.append([take('a', 1, 2, 3)])
    const file = await open(join(folder(), 'c', 'takes', record!.pack), 'r+')
    await file.write(Buffer.of(9), 0, 1, 2)
    await file.close()
    await expect(packs.read(record!)).rejects.toMatchObject({ problem: { code: 'take-damaged' } })
    await expect(packs.read({ ...record!, pack: 'gone.pack' })).rejects.toMatchObject({ problem: { code: 'take-damaged' } })
    await expect(packs.read({ ...record!, offset: 4000 })).rejects.toMatchObject({ problem: { code: 'take-damaged' } })
    await packs.close()
  })
})

describe('on a disk that fills up', () => {
  /** Until it is undone a write takes at most so many bytes, and after a number of writes none. Gives how many there were. */
  async function fill(mostBytes: number, mostWrites: number): Promise<{ readonly undo: () => number }> {
    const handle = await open(process.execPath)
    const prototype = Object.getPrototypeOf(handle) as { write: (bytes: Uint8Array, from: number, length: number, at: number) => Promise<{ bytesWritten: number }> }
    await handle.close()
    const { write } = prototype
    let writes = 0
    prototype.write = function (bytes, from, length, at) {
      writes += 1
      if (writes > mostWrites) return Promise.reject(Object.assign(new Error('no space left on device'), { code: 'ENOSPC' }))
      return write.call(this, bytes, from, Math.min(length ?? bytes.length, mostBytes), at)
    }
    return { undo: () => { prototype.write = write; return writes } }
  }

  test('a write that takes only some of the bytes is gone on with', async () => {
    const packs = packsIn(join(folder(), 'short'))
    const full = await fill(3, 100)
    const records = await packs.append([take('a', 1, 2, 3), take('b', 4, 5, 6, 7)])
    expect(full.undo()).toBeGreaterThan(3)
    expect(await Promise.all(records.map(record => packs.read(record)))).toEqual([Int16Array.of(1, 2, 3), Int16Array.of(4, 5, 6, 7)])
    await packs.close()
  })

  test('a group that does not fit is refused; what was stored before stays, and the next one is sound', async () => {
    const packs = packsIn(join(folder(), 'full'))
    const [before] = await packs.append([take('a', 1, 2, 3)])
    const full = await fill(4, 2)
    await expect(packs.append([take('b', 4, 5, 6, 7, 8, 9)])).rejects.toMatchObject({ problem: { code: 'disk-full' } })
    full.undo()
    const [after] = await packs.append([take('c', 10, 11)])
    expect(await Promise.all([before!, after!].map(record => packs.read(record)))).toEqual([Int16Array.of(1, 2, 3), Int16Array.of(10, 11)])
    await packs.close()
  })
})

describe('the index of a cache folder', () => {
  const record = (key: string) => takeRecord(key, { sampleCount: 3 })

  test('is there again when it is opened again', async () => {
    const path = join(folder(), 'index', 'takes.jsonl')
    const index = await FileTakeIndex.open(path)
    await index.add([record('a'), record('b')])
    expect([...(await (await FileTakeIndex.open(path)).find(['a', 'b', 'c'])).keys()]).toEqual(['a', 'b'])
  })

  test('passes over a last line that was cut short, and goes on behind it', async () => {
    const path = join(folder(), 'cut', 'takes.jsonl')
    await (await FileTakeIndex.open(path)).add([record('a')])
    await appendFile(path, '{"key":"b","pa')
    await (await FileTakeIndex.open(path)).add([record('c')])
    expect([...(await (await FileTakeIndex.open(path)).find(['a', 'b', 'c'])).keys()]).toEqual(['a', 'c'])
  })
})
