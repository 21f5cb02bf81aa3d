import { fail, ProblemError } from '#core/problem'
import { atRate } from './at-rate'
import type { Packs } from './packs'
import type { TakeIndex, TakeRecord } from './take'

/** An index with the packs it points into. */
export interface TakeLibrary {
  readonly index: TakeIndex
  readonly packs: Packs
}

/** Whether an error says that a take is missing on disk or damaged. */
export function isDamage(error: unknown): boolean {
  return error instanceof ProblemError && error.problem.code === 'take-damaged'
}

/** What is loaded, or null when it is missing on disk or damaged. */
export function unlessDamaged(loading: Promise<Int16Array>): Promise<Int16Array | null> {
  return loading.catch((error: unknown) => {
    if (!isDamage(error)) throw error
    return null
  })
}

/**
 * The samples of a take. One that is missing or damaged is forgotten, so that it counts as not made and is
 * made again; the promise rejects with that problem.
 */
export async function loadTake({ index, packs }: TakeLibrary, record: TakeRecord): Promise<Int16Array> {
  try {
    return await packs.read(record)
  } catch (error) {
    if (isDamage(error)) await index.forget([record])
    throw error
  }
}

/**
 * A loader for tracks: the samples of the takes in `records`, by id, at a rate (Hz). `sounds` has the names of those that were brought in, which
 * nothing can make again: the promise of one that is lost rejects with a problem that names it.
 */
export function takeLoader(library: TakeLibrary, records: ReadonlyMap<string, TakeRecord>, sounds: ReadonlyMap<string, string>, rate: number): (take: string) => Promise<Int16Array> {
  // A take that is cut into pieces is read, and its checksum verified, once.
  return lastKept(async take => {
    const record = records.get(take)
    const name = sounds.get(take)
    if (name === undefined) {
      if (record === undefined) throw new Error(`No take ${take}.`)
      return atRate(record, await loadTake(library, record), rate)
    }
    const samples = record === undefined ? null : await unlessDamaged(loadTake(library, record))
    return samples !== null ? atRate(record!, samples, rate) : fail('sound-lost', `The audio of the sound “${name}” is missing or damaged on the disk. Bring the sound in again under this name, on the Cast page.`)
  })
}

/** A loader that has what it loaded last at once. */
export function lastKept(load: (take: string) => Promise<Int16Array>): (take: string) => Promise<Int16Array> {
  let last: { readonly take: string, readonly samples: Promise<Int16Array> } | null = null
  return take => {
    if (last?.take !== take) last = { take, samples: load(take) }
    const { samples } = last
    samples.catch(() => { last = null })
    return samples
  }
}
