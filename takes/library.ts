import { ProblemError } from '#core/problem'
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

/** A loader for tracks: the samples of the takes in `records`, by key. */
export function takeLoader(library: TakeLibrary, records: ReadonlyMap<string, TakeRecord>): (key: string) => Promise<Int16Array> {
  return async key => {
    const record = records.get(key)
    if (record === undefined) throw new Error(`No take for ${key}.`)
    return loadTake(library, record)
  }
}
