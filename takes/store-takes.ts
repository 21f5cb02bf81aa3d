import type { TakeLibrary } from './library'
import type { NewTake } from './packs'
import type { TakeRecord } from './take'

/**
 * Puts audio on disk and makes it known. Somebody who makes room may have sealed its pack meanwhile, without having seen what was just added
 * to it: then it is written once more, into another pack. Rejects with a problem when the disk is full.
 */
export async function storeTakes({ index, packs }: TakeLibrary, takes: readonly NewTake[]): Promise<TakeRecord[]> {
  let records = await packs.append(takes)
  await index.add(records)
  while (records.length > 0 && await packs.isSealed(records[0]!.pack)) {
    const before = records[0]!.pack
    records = await packs.append(takes)
    await index.replace(records, before)
  }
  return records
}
