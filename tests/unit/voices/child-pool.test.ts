import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { ChildLostError, ChildPool, type PoolOptions } from '../../../voices/child-pool'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()

/** A child that answers with its process id, what it was asked, and how much it has in hand; or hangs, or dies. */
const program = `
let inHand = 0
process.on('message', ({ text }) => {
  inHand += 1
  if (text === 'die') process.kill(process.pid, 'SIGKILL')
  if (text !== 'hang') setImmediate(() => {
    process.send({ pid: process.pid, text, inHand })
    inHand -= 1
  })
})
process.on('disconnect', () => process.exit(0))
process.send({ up: true })`

interface Answer { pid: number, text: string, inHand: number }

const pools: ChildPool[] = []
beforeAll(() => writeFile(join(folder(), 'child.mjs'), program))
afterAll(() => pools.forEach(pool => pool.close()))

function poolOf(options: Partial<PoolOptions> = {}): { ask: (text: string) => Promise<Answer>, pool: ChildPool } {
  const pool = new ChildPool({ program: join(folder(), 'child.mjs'), size: 2, recycleAfter: 1000, timeoutMs: 10_000, ...options })
  pools.push(pool)
  return { pool, ask: async text => await pool.ask({ text }) as Answer }
}

describe('a pool of children', () => {
  test('answers every task, with no more children than its size', async () => {
    const { ask } = poolOf()
    const answers = await Promise.all(Array.from({ length: 12 }, (_, index) => ask(String(index))))
    expect(answers.map(answer => answer.text)).toEqual(Array.from({ length: 12 }, (_, index) => String(index)))
    expect(new Set(answers.map(answer => answer.pid)).size).toBe(2)
  })

  test('gives a child one task at a time', async () => {
    const { ask } = poolOf({ size: 1 })
    const answers = await Promise.all(Array.from({ length: 12 }, (_, index) => ask(String(index))))
    expect(answers.map(answer => answer.inHand)).toEqual(answers.map(() => 1))
  })

  test('gives a child several tasks at once where it takes them, and knows which answer is whose', async () => {
    await writeFile(join(folder(), 'shared.mjs'), `
      const open = []
      process.on('message', task => {
        if (open.length === 0) setTimeout(answer, 50)
        open.push(task)
      })
      process.on('disconnect', () => process.exit(0))
      process.send({ up: true })
      // The newest is answered first, in two pieces.
      function answer() {
        for (const { id, text } of open.splice(0).reverse()) {
          process.send({ id, more: true, text: text + ' half of ' + process.pid })
          process.send({ id, text })
        }
      }`)
    const { pool } = poolOf({ program: join(folder(), 'shared.mjs'), size: 1, atOnce: 3, recycleAfter: 6 })
    const pieces: string[] = []
    const ask = async (text: string): Promise<string> => (await pool.ask({ text }, piece => { pieces.push((piece as Answer).text) }) as Answer).text
    expect(await Promise.all(['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i'].map(ask))).toEqual(['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i'])
    expect(pieces.slice(0, 3).map(piece => piece[0])).toEqual(['c', 'b', 'a'])
    // It is replaced when it has answered all that it had in hand.
    expect(new Set(pieces.map(piece => piece.split(' ').at(-1))).size).toBe(2)
  })

  test('replaces a child after so many tasks', async () => {
    const { ask } = poolOf({ size: 1, recycleAfter: 3 })
    const pids: number[] = []
    for (let index = 0; index < 6; index += 1) pids.push((await ask('x')).pid)
    expect(new Set(pids).size).toBe(2)
    expect(pids[2]).toBe(pids[0])
    expect(pids[3]).not.toBe(pids[0])
  })

  test('rejects the task of a child that dies, and goes on with the next', async () => {
    const { ask } = poolOf({ size: 1 })
    const [dead, next] = await Promise.allSettled([ask('die'), ask('next')])
    expect(dead).toMatchObject({ status: 'rejected', reason: expect.any(ChildLostError) })
    expect(next).toMatchObject({ status: 'fulfilled', value: { text: 'next' } })
  })

  test('ends a child that hangs after the time limit', async () => {
    const { ask } = poolOf({ size: 1, timeoutMs: 3000 })
    await ask('warm')
    await expect(ask('hang')).rejects.toBeInstanceOf(ChildLostError)
    expect((await ask('after')).text).toBe('after')
  })

  test('a child that is slow to start is not taken for one that hangs', async () => {
    await writeFile(join(folder(), 'slow.mjs'), `setTimeout(() => { ${program} }, 1500)`)
    const { ask } = poolOf({ program: join(folder(), 'slow.mjs'), size: 1, timeoutMs: 500 })
    expect((await ask('first')).text).toBe('first')
  })

  test('rejects what is open when it is closed, and what comes later', async () => {
    const { ask, pool } = poolOf({ size: 1 })
    const open = Promise.allSettled([ask('hang'), ask('waiting')])
    pool.close()
    expect((await open).map(result => result.status)).toEqual(['rejected', 'rejected'])
    await expect(ask('late')).rejects.toBeInstanceOf(ChildLostError)
  })

  test('a program that is not there is a lost child, not a crash', async () => {
    const { ask } = poolOf({ program: join(folder(), 'gone.mjs') })
    await expect(ask('x')).rejects.toBeInstanceOf(ChildLostError)
  })
})
