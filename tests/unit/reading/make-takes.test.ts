import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { asProblem, ProblemError } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { makeTakes, type EngineSource, type Wanted } from '../../../reading/make-takes'
import { withMending } from '../../../reading/mend'
import { FileTakeIndex } from '../../../takes/file-index'
import { loadTake, type TakeLibrary } from '../../../takes/library'
import type { Packs } from '../../../takes/packs'
import type { Engine } from '../../../voices/port'
import { temporaryFolder } from '../../support/paths'
import { packsIn } from '../../support/takes'

const folder = temporaryFolder()

/** An engine that notes what it was asked, and cannot speak `bad`. */
function engineOf(asked: string[]): Engine {
  return {
    parallel: 2,
    list: () => Promise.reject(new Error('not used')),
    about: () => Promise.reject(new Error('not used')),
    close: () => Promise.resolve(),
    speak: ({ body }) => {
      const text = String(body)
      asked.push(text)
      return text === 'bad'
        ? Promise.reject(new ProblemError({ code: 'engine-failed', message: 'no' }))
        : Promise.resolve({ samples: Int16Array.of(text.length), sampleRate: 22_050, wordMarks: [] })
    },
  }
}

const wanted = (...texts: string[]): Wanted[] => texts.map(body => ({ key: `key of ${body}`, text: body, request: { engine: 'one', body } as EngineRequest }))
/** It is the only one. */
const only = (engine: Engine): EngineSource => ({ of: () => engine })

const opened: Packs[] = []
afterAll(() => Promise.all(opened.map(packs => packs.close())))

async function libraryIn(name: string): Promise<TakeLibrary> {
  const packs = packsIn(join(folder(), name))
  opened.push(packs)
  return { index: await FileTakeIndex.open(join(folder(), name, 'takes.jsonl')), packs }
}

describe('making takes', () => {
  test('an engine that is not there ends the work at once; its problem is not one of every sentence', async () => {
    let asked = 0
    const missing: Engine = { ...engineOf([]), speak: () => { asked += 1; return Promise.reject(new ProblemError({ code: 'engine-missing', message: 'not installed' })) } }
    const faults: unknown[] = []
    const work = makeTakes(wanted(...'abcdefghij'), await libraryIn('missing'), only(missing), { onFault: fault => { faults.push(fault) } })
    await expect(work).rejects.toMatchObject({ problem: { code: 'engine-missing' } })
    expect([asked, faults]).toEqual([2, []])
  })

  test('an engine that stops on every sentence is given up after eight, one that stops on some is not', async () => {
    const stopping = (when: (asked: number) => boolean): Engine => {
      let asked = 0
      return { ...engineOf([]), parallel: 1, speak: () => {
        asked += 1
        return when(asked) ? Promise.reject(new ProblemError({ code: 'engine-stopped', message: 'stopped' })) : Promise.resolve({ samples: Int16Array.of(1), sampleRate: 22_050, wordMarks: [] })
      } }
    }
    const letters = wanted(...'abcdefghijklmnopqrst')
    const faults: unknown[] = []
    const options = { onFault: (fault: Wanted) => { faults.push(fault) } }
    await expect(makeTakes(letters, await libraryIn('down'), only(stopping(() => true)), options)).rejects.toMatchObject({ problem: { message: expect.stringContaining('8 sentences one after the other') } })
    expect(faults).toHaveLength(7)
    faults.length = 0
    expect(await makeTakes(letters, await libraryIn('shaky'), only(stopping(asked => asked % 2 === 0)), options)).toHaveLength(10)
    expect(faults).toHaveLength(10)
  })

  test('a full disk ends the work with a problem; what is stored stays', async () => {
    const library = await libraryIn('full')
    const texts = Array.from({ length: 64 }, (_, index) => `text ${index}`)
    let groups = 0
    const append = library.packs.append.bind(library.packs)
    library.packs.append = takes => { groups += 1; return groups === 1 ? append(takes) : Promise.reject(asProblem(Object.assign(new Error('no space'), { code: 'ENOSPC' }))) }
    const asked: string[] = []
    await expect(makeTakes(wanted(...texts), library, only(engineOf(asked)))).rejects.toMatchObject({ problem: { code: 'disk-full' } })
    expect((await library.index.find(wanted(...texts).map(want => want.key))).size).toBe(16)
  })

  test('makes each missing take once, however often it is wanted', async () => {
    const asked: string[] = []
    const library = await libraryIn('once')
    await makeTakes(wanted('a', 'b', 'a'), library, only(engineOf(asked)))
    const made = await makeTakes(wanted('a', 'b', 'c'), library, only(engineOf(asked)))
    expect(asked.sort()).toEqual(['a', 'b', 'c'])
    expect(made.map(take => take.key)).toEqual(['key of c'])
    const [record] = (await library.index.find(['key of a'])).values()
    expect(await library.packs.read(record!)).toEqual(Int16Array.of(1))
  })

  test('goes on after an utterance the engine cannot speak, and reports it', async () => {
    const faults: string[] = []
    const library = await libraryIn('fault')
    const made = await makeTakes(wanted('a', 'bad', 'b'), library, only(engineOf([])), { onFault: want => { faults.push(want.key) } })
    expect(faults).toEqual(['key of bad'])
    expect(made).toHaveLength(2)
  })

  test('a take that is damaged on disk is made again, and the work that needed it done once more', async () => {
    const library = await libraryIn('damage')
    const asked: string[] = []
    const [first] = await makeTakes(wanted('a', 'bb'), library, only(engineOf(asked)))
    const file = await open(join(folder(), 'damage', 'takes', first!.pack), 'r+')
    await file.write(Buffer.alloc(4, 0x55), 0, 4, 0)
    await file.close()
    let attempts = 0
    const samples = await withMending(wanted('a', 'bb'), library, only(engineOf(asked)), async () => {
      attempts += 1
      const records = [...(await library.index.find(['key of a', 'key of bb'])).values()]
      return Promise.all(records.map(record => loadTake(library, record)))
    })
    expect(samples.map(each => [...each]).sort()).toEqual([[1], [2]])
    expect([attempts, asked.length]).toEqual([2, 4])
  })

  test('stops after the utterances in flight, and keeps them', async () => {
    const asked: string[] = []
    const library = await libraryIn('stop')
    const made = await makeTakes(wanted(...Array.from({ length: 50 }, (_, index) => `t${index}`)), library, only(engineOf(asked)), { stopped: () => asked.length >= 5 })
    expect(asked.length).toBeLessThan(8)
    expect(made).toHaveLength(asked.length)
  })
})
