import { ProblemError, type Problem } from '#core/problem'
import type { EngineId } from '#core/score/cast'
import { textHash } from '#core/takes/take'
import { addTo } from '#core/tally'
import type { NewTake } from '#takes/packs'
import type { TakeLibrary } from '#takes/library'
import { storeTakes } from '#takes/store-takes'
import type { TakeRecord } from '#takes/take'
import type { AskedUtterance, Engine, Question } from '#voices/port'

/** A missing take: what to ask of which engine. */
export interface Wanted extends Omit<AskedUtterance, 'purpose'> {
  /** What it is read for, as far as that is known. */
  readonly purpose?: AskedUtterance['purpose']
  /** What is said. */
  readonly text: string
}

/** Where the engine of a request is found. */
export interface EngineSource {
  readonly of: (id: EngineId) => Pick<Engine, 'parallel' | 'speak' | 'questions'>
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

/** Utterances that are claimed at once for each that an engine works on. */
const claimedAhead = 2
/** Utterances that are claimed at once of an engine that is asked for several together. */
const claimedTogether = 64
const renewalsPerLease = 4

/** Problems of the engine itself: no other utterance would fare better. */
const engineProblems = new Set(['engine-missing', 'engine-broken', 'account-missing', 'account-refused', 'allowance-spent'])
/** Problems that may be those of one text, or of the engine. */
const stopProblems = new Set(['engine-stopped', 'service-stopped'])
/** So many utterances in a row on which the engine stops: it is the engine and not the texts. */
const mostStops = 8
const brokenEngine: Problem = {
  code: 'engine-stopped', message: `The speech engine stopped on ${mostStops} sentences one after the other. Check the machine’s memory and the engine’s installation, then read again.`,
}

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
  const waiting = new Map<EngineId, Wanted[]>()
  for (const want of byKey.values()) if (!existing.has(want.key)) addTo(waiting, want.request.engine, want)
  const made: TakeRecord[] = []
  /** What is claimed and not stored yet. */
  const open = new Set<string>()
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

  /** The next utterances that nobody else is making, a few at a time: what is claimed long before its turn keeps others from it. */
  const claimNext = async (queue: Wanted[], count: number): Promise<Wanted[]> => {
    while (queue.length > 0) {
      const next = queue.splice(0, count)
      const claimed = new Set(await library.index.claim(next.map(({ key }) => key)))
      for (const key of claimed) open.add(key)
      if (claimed.size > 0) return next.filter(({ key }) => claimed.has(key))
    }
    return []
  }
  /** Gives out the questions to an engine one by one. */
  const askingFrom = (engine: Pick<Engine, 'parallel' | 'speak' | 'questions'>, queue: Wanted[]): (() => Promise<Question | undefined>) => {
    const count = engine.questions === undefined ? engine.parallel * claimedAhead : claimedTogether
    let ahead: Question[] = []
    let turn: Promise<unknown> = Promise.resolve()
    const singly = ({ key, request }: Wanted): Question => ({ keys: [key], ask: async () => new Map([[key, await engine.speak(request)]]) })
    return () => {
      const next = turn.then(async () => {
        if (ahead.length === 0) {
          const claimed = await claimNext(queue, count)
          ahead = claimed.length === 0 ? [] : [...await engine.questions?.(claimed.map(({ purpose = null, ...each }) => ({ ...each, purpose }))) ?? claimed.map(singly)]
        }
        return ahead.shift()
      })
      turn = next.catch(() => undefined)
      return next
    }
  }
  const noteFaults = async (keys: readonly string[], problem: Problem): Promise<void> => {
    for (const key of keys) await options.onFault?.(byKey.get(key)!, problem)
  }
  const work = async (id: EngineId, nextOf: () => Promise<Question | undefined>): Promise<void> => {
    while (!ended && options.stopped?.() !== true) {
      const next = await nextOf()
      if (next === undefined) return
      try {
        for (const [key, answer] of await next.ask()) {
          if ('samples' in answer) group.push({ key, variant: 0, origin: 'engine', textHash: textHash(byKey.get(key)!.text), ...answer })
          else await noteFaults([key], answer)
        }
        stops.set(id, 0)
        if (group.length >= groupSize) store()
      } catch (error) {
        if (!(error instanceof ProblemError) || engineProblems.has(error.problem.code)) throw error
        const { problem } = error
        stops.set(id, stopProblems.has(problem.code) ? (stops.get(id) ?? 0) + 1 : 0)
        if (stops.get(id)! >= mostStops) throw new ProblemError(problem.code === 'engine-stopped' ? brokenEngine : problem)
        await noteFaults(next.keys, problem)
      }
    }
  }

  const { leaseMs } = library.index
  // When this fails for long, another may make the same: then the first take counts.
  const renewing = leaseMs === null ? undefined : setInterval(() => { library.index.renew([...open]).catch(() => undefined) }, leaseMs / renewalsPerLease)

  try {
    await Promise.all([...waiting].flatMap(([id, queue]) => {
      const engine = engines.of(id)
      const nextOf = askingFrom(engine, queue)
      return Array.from({ length: engine.parallel }, () => work(id, nextOf))
    }))
  } finally {
    ended = true
    store()
    clearInterval(renewing)
    await storing.finally(() => library.index.release([...open]))
  }
  return made
}
