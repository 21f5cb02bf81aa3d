import { setTimeout as sleep } from 'node:timers/promises'
import type { Pcm } from '#core/audio/pcm'
import type { TakeShape } from '#core/audio/track'
import { fail, ProblemError, type Problem } from '#core/problem'
import { makeTakes, type Wanted } from '#reading/make-takes'
import { isDamage, loadTake, type TakeLibrary } from '#takes/library'
import type { Engine } from '#voices/port'

const patienceMs = 20_000
const pollMs = 40

/** The audio of an utterance, without any queue, and whether it was made now. When a worker is making it just now, waits for that. */
export async function speakNow(library: TakeLibrary, engine: Engine, wanted: Wanted): Promise<Pcm & TakeShape & { readonly isNew: boolean }> {
  let isNew = false
  for (let waited = 0; waited < patienceMs; waited += pollMs) {
    const take = (await library.index.find([wanted.key])).get(wanted.key)
    if (take !== undefined) {
      const samples = await loadTake(library, take).catch((error: unknown) => {
        if (!isDamage(error)) throw error
        return null
      })
      if (samples !== null) return { samples, sampleRate: take.sampleRate, sampleCount: take.sampleCount, wordMarks: take.wordMarks, isNew }
    }
    let problem: Problem | null = null
    const made = await makeTakes([wanted], library, engine, { onFault: (_, found) => { problem = found } })
    if (problem !== null) throw new ProblemError(problem)
    if (made.length === 0) await sleep(pollMs)
    else isNew = true
  }
  return fail('engine-busy', 'The sentence is still being read elsewhere. Try again in a moment.')
}
