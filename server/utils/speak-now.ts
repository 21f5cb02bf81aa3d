import { setTimeout as sleep } from 'node:timers/promises'
import { fail, ProblemError, type Problem } from '#core/problem'
import { makeTakes, type EngineSource, type Wanted } from '#reading/make-takes'
import { atRate } from '#takes/at-rate'
import { lastKept, loadTake, takeLoader, unlessDamaged, type TakeLibrary } from '#takes/library'
import type { TakeRecord } from '#takes/take'

/**
 * A loader for a track, at its rate (Hz). A take that turns out to be damaged is made again at once, as `wantedOf` says; the same request gives the same samples, so what is laid
 * already holds. Null is one that no engine makes. Whatever has been moved on the disk meanwhile is found again.
 */
export function mendingLoader(
  library: TakeLibrary, engines: EngineSource, sounds: ReadonlyMap<string, string>, rate: number, wantedOf: (take: string) => Promise<Wanted | null>,
): (take: string) => Promise<Int16Array> {
  return lastKept(async take => {
    const record = (await library.index.find([take])).get(take)
    if (sounds.has(take)) return takeLoader(library, new Map(record === undefined ? [] : [[take, record]]), sounds, rate)(take)
    if (record !== undefined) {
      const samples = await unlessDamaged(loadTake(library, record))
      if (samples !== null) return atRate(record, samples, rate)
    }
    const wanted = await wantedOf(take)
    if (wanted === null) return lost()
    const { samples, known } = await speakNow(library, engines, wanted)
    // Such as a take of another release of the engine.
    if (record !== undefined && samples.length !== record.sampleCount) fail('take-changed', 'A damaged sentence was read again, and has another length now. Listen again.')
    return atRate(known, samples, rate)
  })
}

function lost(): never {
  return fail('take-lost', 'The audio that was chosen for this place is missing or damaged on the disk. Bring it in again, or take the choice back.')
}

export interface HeardTake {
  readonly samples: Int16Array
  readonly known: TakeRecord
  /** It was made now. */
  readonly isNew: boolean
}

/** The audio of a take that no engine makes. */
export async function loadNow(library: TakeLibrary, take: string): Promise<HeardTake> {
  const known = (await library.index.find([take])).get(take) ?? lost()
  return { samples: await unlessDamaged(loadTake(library, known)) ?? lost(), known, isNew: false }
}

const patienceMs = 20_000
const pollMs = 40

/** The audio of an utterance, without any queue. When a worker is making it just now, waits for that. */
export async function speakNow(library: TakeLibrary, engines: EngineSource, wanted: Wanted): Promise<HeardTake> {
  let isNew = false
  for (let waited = 0; waited < patienceMs; waited += pollMs) {
    const known = (await library.index.find([wanted.key])).get(wanted.key)
    if (known !== undefined) {
      const samples = await unlessDamaged(loadTake(library, known))
      if (samples !== null) return { samples, known, isNew }
    }
    let problem: Problem | null = null
    const made = await makeTakes([wanted], library, engines, { onFault: (_, found) => { problem = found } })
    if (problem !== null) throw new ProblemError(problem)
    if (made.length === 0) await sleep(pollMs)
    else isNew = true
  }
  return fail('engine-busy', 'The sentence is still being read elsewhere. Try again in a moment.')
}
