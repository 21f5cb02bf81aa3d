import { join } from 'node:path'
import { ProblemError } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { makeTakes, type Wanted } from '../../../reading/make-takes'
import { FileTakeIndex } from '../../../takes/file-index'
import type { TakeLibrary } from '../../../takes/library'
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

  test('stops after the utterances in flight, and keeps them', async () => {
    const asked: string[] = []
    const library = await libraryIn('stop')
    const made = await makeTakes(wanted(...Array.from({ length: 50 }, (_, index) => `t${index}`)), library, engineOf(asked), { stopped: () => asked.length >= 5 })
    expect(asked.length).toBeLessThan(8)
    expect(made).toHaveLength(asked.length)
  })
})
