import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import { spaceFinding, type About, type Finding } from '#core/health'
import { ProblemError } from '#core/problem'
import type { FileStorage } from '#takes/storage'
import { encoderName } from './ffmpeg'
import { findMpg123 } from './libraries/mpg123'

/** What a machine must have for the work. */
export interface MachineNeeds {
  /** What each engine says about itself; rejects with a problem when it does not work. */
  readonly engines: readonly { readonly name: string, readonly about: () => Promise<About> }[]
  /** Where audio is kept. */
  readonly storage: FileStorage
}

/** What ffmpeg must have been built with. */
const encoders = [{ encoder: 'aac', makes: 'AAC' }, { encoder: 'libopus', makes: 'Opus' }, { encoder: 'flac', makes: 'FLAC' }] as const

/** Looks at this machine: Node.js, speech engine, encoder, storage. Never rejects. */
export function machineFindings({ engines, storage }: MachineNeeds): Promise<Finding[]> {
  return Promise.all([
    look('Node.js', () => Promise.resolve(process.version)),
    ...engines.map(({ name, about }) => look(engines.length === 1 ? 'Speech engine' : `Speech engine “${name}”`, about)),
    look('Encoder', async () => {
      const name = await encoderName()
      findMpg123()
      const { stdout } = await promisify(execFile)('ffmpeg', ['-hide_banner', '-encoders'])
      const missing = encoders.filter(({ encoder }) => !new RegExp(`^ A\\S* ${encoder} `, 'mu').test(stdout)).map(({ makes }) => makes)
      if (missing.length > 0) throw new ProblemError({ code: 'encoder-poor', message: `This ffmpeg cannot make ${missing.join(', ')}. Install the Debian package ffmpeg.` })
      return name
    }),
    freeSpace(storage),
  ])
}

/** A finding from what `find` gives, or from the problem it rejects with. With a remedy it works, but not as it should. */
export async function look(subject: string, find: () => Promise<string | About>): Promise<Finding> {
  try {
    const answer = await find()
    const { found, remedy } = typeof answer === 'string' ? { found: answer, remedy: null } : answer
    return { subject, state: remedy === null ? 'good' : 'poor', found, remedy }
  } catch (error) {
    const message = error instanceof ProblemError ? error.problem.message : `It failed: ${(error as Error).message}.`
    const [found, ...remedy] = message.split(/(?<=\.)\s+/u)
    return { subject, state: 'bad', found: found!, remedy: remedy.join(' ') || 'See the log in var/log.' }
  }
}

async function freeSpace(storage: FileStorage): Promise<Finding> {
  let room: number | null = null
  const answers = await look('Storage', async () => {
    room = await storage.room()
    return storage.place
  })
  return room === null ? answers : spaceFinding(room, storage.place)
}
