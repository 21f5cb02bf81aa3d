import { realpath } from 'node:fs/promises'
import { dirname, resolve, sep } from 'node:path'
import { fail, ProblemError } from '#core/problem'
import type { Sound } from '#core/score/sounds'
import type { Script } from '#core/script/script'
import { decodeSound } from '#press/decode'
import { keepSound } from '#takes/keep-sound'
import type { TakeLibrary } from '#takes/library'
import { noteOnce } from './print'

/**
 * The sounds that a script asks for and the tone of its room, from a folder: that of the document unless another is given. What cannot be played is said on
 * standard error, and left out. Throws a problem when the folder that is given does not exist.
 */
export async function openSounds(script: Script, roomTone: string | null, file: string, given: string | undefined, library: TakeLibrary, sampleRate: number): Promise<Record<string, Sound>> {
  const names = new Set(script.parts.flatMap(part => part.passages.flatMap(({ content }) => content.directions.flatMap(direction => direction.kind === 'sound' ? [direction.sound] : []))))
  if (roomTone !== null) names.add(roomTone)
  const folder = await realpath(given ?? dirname(file)).catch(() => fail('folder-missing', `There is no folder ${given}. Check the name.`))
  const found: Record<string, Sound> = {}
  for (const name of names) {
    try {
      found[name] = await keepSound(library, await decodeSound(await within(folder, name), name, sampleRate))
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      noteOnce(`The sound “${name}” is left out. ${error.problem.message}`)
    }
  }
  return found
}

/** The path of a file in a folder or below it. */
async function within(folder: string, name: string): Promise<string> {
  const path = await realpath(resolve(folder, name)).catch(() => null)
  if (path === null || name === '' || !path.startsWith(folder.endsWith(sep) ? folder : folder + sep)) fail('sound-missing', `There is no such file in ${folder}. Put it there, or name the folder with --sounds.`)
  return path
}
