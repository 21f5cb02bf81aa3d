import { setTimeout as sleep } from 'node:timers/promises'
import type { Pcm } from '#core/audio/pcm'
import type { TakeShape } from '#core/audio/track'
import { fail, ProblemError, type Problem } from '#core/problem'
import { makeTakes, type EngineSource, type Wanted } from '#reading/make-takes'
import { loadTake, takeLoader, unlessDamaged, type TakeLibrary } from '#takes/library'

/**
 * A loader for a track of takes that exist. One that turns out to be damaged is made again at once, as `wantedOf` says; the same request gives the same samples, so what is laid
 * already holds. Whatever has been moved on the disk meanwhile is found again.
 */
export function mendingLoader(library: TakeLibrary, engines: EngineSource, sounds: ReadonlyMap<string, string>, wantedOf: (key: string) => Promise<Wanted>): (key: string) => Promise<Int16Array> {
  return async key => {
    const record = (await library.index.find([key])).get(key)
    if (sounds.has(key)) return takeLoader(library, new Map(record === undefined ? [] : [[key, record]]), sounds)(key)
    if (record !== undefined) {
      const samples = await unlessDamaged(loadTake(library, record))
      if (samples !== null) return samples
    }
    const { samples } = await speakNow(library, engines, await wantedOf(key))
    // Such as a take of another release of the engine.
    if (record !== undefined && samples.length !== record.sampleCount) fail('take-changed', 'A damaged sentence was read again, and has another length now. Listen again.')
    return samples
  }
}

const patienceMs = 20_000
const pollMs = 40

/** The audio of an utterance, without any queue, and whether it was made now. When a worker is making it just now, waits for that. */
export async function speakNow(library: TakeLibrary, engines: EngineSource, wanted: Wanted): Promise<Pcm & TakeShape & { readonly isNew: boolean }> {
  let isNew = false
  for (let waited = 0; waited < patienceMs; waited += pollMs) {
    const take = (await library.index.find([wanted.key])).get(wanted.key)
    if (take !== undefined) {
      const samples = await unlessDamaged(loadTake(library, take))
      if (samples !== null) return { samples, sampleRate: take.sampleRate, sampleCount: take.sampleCount, wordMarks: take.wordMarks, isNew }
    }
    let problem: Problem | null = null
    const made = await makeTakes([wanted], library, engines, { onFault: (_, found) => { problem = found } })
    if (problem !== null) throw new ProblemError(problem)
    if (made.length === 0) await sleep(pollMs)
    else isNew = true
  }
  return fail('engine-busy', 'The sentence is still being read elsewhere. Try again in a moment.')
}
