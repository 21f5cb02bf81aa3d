import { randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { makeTakes } from '../../reading/make-takes'
import { openQueue } from '../../store/queue'
import { chunksOf } from '../../store/readings'
import { takeIndex } from '../../store/take-index'
import { runJobs } from '../../worker/jobs'
import { takenUtterance } from '../support/casting'
import { ownDatabase } from '../support/database'
import type PgBoss from 'pg-boss'
import { packsIn } from '../support/takes'

// An engine that needs 2 s a sentence. Leases and jobs last 3 s here, so that many end while a chunk is read; they last a minute otherwise.

const { database, url } = ownDatabase()
const leaseMs = 3_000
const sentenceMs = 2_000
let folder = ''
beforeAll(async () => { folder = await mkdtemp(join(tmpdir(), 'quill-slow-')) })
afterAll(() => rm(folder, { recursive: true, force: true }))

/** Notes what it is asked, and takes its time. */
function slowly(asked: string[]) {
  return { of: () => ({ parallel: 1, speak: async ({ body }: { body: unknown }) => {
    asked.push(String(body))
    await sleep(sentenceMs)
    return { samples: Int16Array.of(1, 2), sampleRate: 22_050, wordMarks: [] }
  } }) }
}

const wanted = (...keys: string[]) => keys.map(key => {
  const utterance = takenUtterance(key)
  return { ...utterance, request: { ...utterance.request, body: key } }
})

test('of two that read the same chunk each makes what the other does not, and every sentence once', async () => {
  const asked: string[] = []
  const keys = ['a', 'b', 'c', 'd', 'e', 'f']
  const readers = [1, 2].map(async number => {
    const packs = packsIn(join(folder, `reader ${number}`))
    const library = { index: takeIndex(database(), randomUUID(), leaseMs), packs }
    let left = keys
    while (left.length > 0) {
      await makeTakes(wanted(...left), library, slowly(asked))
      const there = await library.index.find(keys)
      left = keys.filter(key => !there.has(key))
      if (left.length > 0) await sleep(100)
    }
    await packs.close()
  })
  await Promise.all(readers)
  expect([...asked].sort()).toEqual(keys)
}, 60_000)

describe('a job', () => {
  let queue: PgBoss
  beforeAll(async () => { queue = await openQueue(url(), 'worker') })
  afterAll(() => queue.stop({ graceful: false }))

  test('that takes longer than it may is given to nobody else while its worker is at it', async () => {
    await queue.createQueue('slow')
    await queue.send('slow', { chunk: 1 }, { expireInSeconds: leaseMs / 1000, retryLimit: 5, retryDelay: 0 })
    let begun = 0
    let end = (): void => undefined
    const ended = new Promise<void>(resolve => { end = resolve })
    const kind = { work: async () => {
      begun += 1
      // Long enough to expire, and to be seen as expired, twice.
      await sleep(leaseMs * 4)
      end()
    }, giveUp: () => Promise.resolve() }
    const loops = [1, 2].map(() => runJobs(database(), queue, 'slow', kind))
    await ended
    await Promise.all(loops.map(loop => loop.stop()))
    expect(begun).toBe(1)
  }, 60_000)
})

describe('chunks', () => {
  const capabilities = (eachMs: number) => ({ espeak: { work: { eachMs, perSpokenSecondMs: 0 } } }) as unknown as Parameters<typeof chunksOf>[1]
  const utterances = Array.from({ length: 150 }, (_, at) => ({ utterance: takenUtterance(String(at)), estimatedMs: 3_000 }))
  const sizes = (eachMs: number): number[] => {
    const chunks = chunksOf(utterances, capabilities(eachMs))
    return [...new Set(chunks)].map(chunk => chunks.filter(each => each === chunk).length)
  }

  test('of a quick engine have as many utterances as one may have, of a slow one so many as it works on for 20 s', () => {
    expect(sizes(30)).toEqual([64, 64, 22])
    expect(sizes(sentenceMs)).toEqual(Array.from({ length: 15 }, () => 10))
    // One that takes longer still gets one each.
    expect(sizes(60_000)).toEqual(Array.from({ length: 150 }, () => 1))
  })
})
