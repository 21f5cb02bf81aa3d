import type { Packs } from './packs'
import type { TakeIndex, TakeRecord } from './take'

/** An index with the packs it points into. */
export interface TakeLibrary {
  readonly index: TakeIndex
  readonly packs: Packs
}

/** A loader for tracks: the samples of the takes in `records`, by key. */
export function takeLoader(packs: Packs, records: ReadonlyMap<string, TakeRecord>): (key: string) => Promise<Int16Array> {
  return async key => {
    const record = records.get(key)
    if (record === undefined) throw new Error(`No take for ${key}.`)
    return packs.read(record)
  }
}
