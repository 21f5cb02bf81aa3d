import { access, constants, mkdir, statfs } from 'node:fs/promises'
import { spaceFinding } from '#core/health'
import { asProblem, ProblemError, type Problem } from '#core/problem'
import type { SpeechEngines } from '#voices/engines'

/** What keeps this worker from reading: an engine that does not answer, a folder that cannot be written, no space. Null when nothing does. */
export async function obstacle(engines: SpeechEngines, folder: string): Promise<Problem | null> {
  try {
    await mkdir(folder, { recursive: true })
    await access(folder, constants.W_OK)
    const { bavail, bsize } = await statfs(folder)
    const space = spaceFinding(bavail * bsize, folder)
    if (space.state === 'bad') return { code: 'disk-full', message: `There is only ${space.found}. ${space.remedy}` }
    await Promise.all(engines.about().map(({ about }) => about()))
    return null
  } catch (error) {
    const known = asProblem(error)
    return known instanceof ProblemError ? known.problem : { code: 'internal', message: `A worker cannot work: ${(error as Error).message}. See var/log/worker.log.` }
  }
}
