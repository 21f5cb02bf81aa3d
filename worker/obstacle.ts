import { spaceFinding } from '#core/health'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { FileStorage } from '#takes/storage'
import type { SpeechEngines } from '#voices/engines'

/** What keeps this worker from reading: the usual engine that does not answer (where another one does not, its own sentences are faults), a storage that does not answer or cannot be written, no space. Null when nothing does. */
export async function obstacle(engines: SpeechEngines, storage: FileStorage): Promise<Problem | null> {
  try {
    const room = await storage.room()
    const space = room === null ? null : spaceFinding(room, storage.place)
    if (space?.state === 'bad') return { code: 'disk-full', message: `There is only ${space.found}. ${space.remedy}` }
    const [usual] = engines.about()
    await usual!.about()
    return null
  } catch (error) {
    const known = asProblem(error)
    return known instanceof ProblemError ? known.problem : { code: 'internal', message: `A worker cannot work: ${(error as Error).message}. See var/log/worker.log.` }
  }
}
