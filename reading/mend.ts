import { isDamage, loadTake, unlessDamaged, type TakeLibrary } from '#takes/library'
import { makeTakes, type EngineSource, type Wanted } from './make-takes'

/**
 * Does work that reads takes. When one turns out to be missing or damaged, all that the work needs are
 * checked, those that are not sound are made again, and the work is done once more.
 */
export async function withMending<T>(wanted: readonly Wanted[], library: TakeLibrary, engines: EngineSource, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (!isDamage(error)) throw error
  }
  const records = await library.index.find(wanted.map(want => want.key))
  for (const record of records.values()) {
    await unlessDamaged(loadTake(library, record))
  }
  await makeTakes(wanted, library, engines)
  return work()
}
