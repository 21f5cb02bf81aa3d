import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { ProblemError } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { makeTakes, type Wanted } from '../../../reading/make-takes'
import { withMending } from '../../../reading/mend'
import { FileTakeIndex } from '../../../takes/file-index'
import { loadTake, type TakeLibrary } from '../../../takes/library'
import { Packs } from '../../../takes/packs'
import type { Engine } from '../../../voices/port'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()

/** An engine that notes what it was asked, and cannot speak `bad`. */
function engineOf(asked: string[]): Engine {
  return {
    parallel: 2,
    list: () => Promise.reject(new Error('not used')),
    close: () => Promise.resolve(),
    speak: ({ markup }) => {
      asked.push(markup)
      return markup === 'bad'
        ? Promise.reject(new ProblemError({ code: 'engine-failed', message: 'no' }))
        : Promise.resolve({ samples: Int16Array.of(markup.length), sampleRate: 22_050, wordMarks: [] })
    },
  }
}

const wanted = (...texts: string[]): Wanted[] => texts.map(markup => ({ key: `key of ${markup}`, request: { markup } as EngineRequest }))

const opened: Packs[] = []
afterAll(() => Promise.all(opened.map(packs => packs.close())))

async function libraryIn(name: string): Promise<TakeLibrary> {
  const packs = new Packs(join(folder(), name))
  opened.push(packs)
  return { index: await FileTakeIndex.open(join(folder(), name, 'takes.jsonl')), packs }
}

describe('making takes', () => {
  test('makes each missing take once, however often it is wanted', async () => {
    const asked: string[] = []
    const library = await libraryIn('once')
    await makeTakes(wanted('a', 'b', 'a'), library, engineOf(asked))
    const made = await makeTakes(wanted('a', 'b', 'c'), library, engineOf(asked))
    expect(asked.sort()).toEqual(['a', 'b', 'c'])
    expect(made.map(take => take.key)).toEqual(['key of c'])
    const [record] = (await library.index.find(['key of a'])).values()
    expect(await library.packs.read(record!)).toEqual(Int16Array.of(1))
  })

  test('goes on after an utterance the engine cannot speak, and reports it', async () => {
    const faults: string[] = []
    const library = await libraryIn('fault')
    const made = await makeTakes(wanted('a', 'bad', 'b'), library, engineOf([]), { onFault: want => { faults.push(want.key) } })
    expect(faults).toEqual(['key of bad'])
    expect(made).toHaveLength(2)
  })

  test('a take that is damaged on disk is made again, and the work that needed it done once more', async () => {
    const library = await libraryIn('damage')
    const asked: string[] = []
    const [first] = await makeTakes(wanted('a', 'bb'), library, engineOf(asked))
    const file = await open(join(folder(), 'damage', first!.pack), 'r+')
    await file.write(Buffer.alloc(4, 0x55), 0, 4, 0)
    await file.close()
    let attempts = 0
    const samples = await withMending(wanted('a', 'bb'), library, engineOf(asked), async () => {
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
    const made = await makeTakes(wanted(...Array.from({ length: 50 }, (_, index) => `t${index}`)), library, engineOf(asked), { stopped: () => asked.length >= 5 })
    expect(asked.length).toBeLessThan(8)
    expect(made).toHaveLength(asked.length)
  })
})
