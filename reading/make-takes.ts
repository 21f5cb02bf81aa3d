import { fail, ProblemError, type Problem } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'
import { textHash } from '#core/takes/take'
import { addTo } from '#core/tally'
import type { NewTake } from '#takes/packs'
import type { TakeLibrary } from '#takes/library'
import { storeTakes } from '#takes/store-takes'
import type { TakeRecord } from '#takes/take'
import type { Engine } from '#voices/port'

/** A missing take: what to ask of which engine. */
export interface Wanted {
  readonly key: string
  readonly request: EngineRequest
  /** What is said. */
  readonly text: string
}

/** Where the engine of a request is found. */
export interface EngineSource {
  readonly of: (id: EngineId) => Pick<Engine, 'parallel' | 'speak'>
}

export interface MakeOptions {
  /** Called after every group that is safely stored. */
  readonly onStored?: (takes: readonly TakeRecord[]) => Promise<void> | void
  /** Called for an utterance the engine cannot speak; the others go on. */
  readonly onFault?: (wanted: Wanted, problem: Problem) => Promise<void> | void
  /** Ends the work after the utterances in flight. */
  readonly stopped?: () => boolean
}

/** Takes are stored in groups, one sync each: after this many, or when nothing is left. */
const groupSize = 16

/** Problems of the engine itself: no other utterance would fare better. */
const engineProblems = new Set(['engine-missing', 'engine-broken'])
/** So many utterances in a row on which the engine stops: it is the engine and not the texts. */
const mostStops = 8

/**
 * Makes the takes that do not exist yet, as many at once as each engine works on. A key that is wanted
 * twice is made once; one that another process is making is left to it. Resolves to the takes made; rejects with a
 * problem that is not of one utterance, such as a full disk.
 */
export async function makeTakes(
  wanted: readonly Wanted[], library: TakeLibrary, engines: EngineSource, options: MakeOptions = {},
): Promise<TakeRecord[]> {
  const byKey = new Map(wanted.map(want => [want.key, want]))
  const existing = await library.index.find([...byKey.keys()])
  const claimed = await library.index.claim([...byKey.keys()].filter(key => !existing.has(key)))
  const queues = new Map<EngineId, Wanted[]>()
  for (const key of claimed) addTo(queues, byKey.get(key)!.request.engine, byKey.get(key)!)
  const made: TakeRecord[] = []
  const open = new Set(claimed)
  let group: NewTake[] = []
  /** Utterances in a row on which each engine stopped. */
  const stops = new Map<EngineId, number>()
  /** Set by a problem that ends all of the work. */
  let ended = false
  let storing: Promise<void> = Promise.resolve()

  const store = (): void => {
    const takes = group
    group = []
    if (takes.length === 0) return
    storing = storing.then(async () => {
      const records = await storeTakes(library, takes)
      for (const record of records) open.delete(record.key)
      made.push(...records)
      await options.onStored?.(records)
    })
    storing.catch(() => { ended = true })
  }

  const work = async (engine: Pick<Engine, 'speak'>, id: EngineId, queue: Wanted[]): Promise<void> => {
    while (!ended && options.stopped?.() !== true) {
      const next = queue.shift()
      if (next === undefined) return
      try {
        const { samples, sampleRate, wordMarks } = await engine.speak(next.request)
        stops.set(id, 0)
        group.push({ key: next.key, variant: 0, origin: 'engine', textHash: textHash(next.text), samples, sampleRate, wordMarks })
        if (group.length >= groupSize) store()
      } catch (error) {
        if (!(error instanceof ProblemError) || engineProblems.has(error.problem.code)) throw error
        stops.set(id, error.problem.code === 'engine-stopped' ? (stops.get(id) ?? 0) + 1 : 0)
        if (stops.get(id)! >= mostStops) fail('engine-stopped', `The speech engine stopped on ${mostStops} sentences one after the other. Check the machine’s memory and the engine’s installation, then read again.`)
        await options.onFault?.(next, error.problem)
      }
    }
  }

  try {
    await Promise.all([...queues].flatMap(([id, queue]) => {
      const engine = engines.of(id)
      return Array.from({ length: engine.parallel }, () => work(engine, id, queue))
    }))
  } finally {
    ended = true
    store()
    await storing.finally(() => library.index.release([...open]))
  }
  return made
}
