import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { samplesOf, type Pcm } from '#core/audio/pcm'
import { fail, ProblemError } from '#core/problem'
import { EncoderLostError, guarded, runFfmpeg } from './ffmpeg'
import { inTemporaryFolder } from './temporary-folder'

/** Longest sound, in s. */
export const maximumSoundSeconds = 600

/**
 * The samples of a file of sound, at a rate (Hz), its channels mixed to one. Throws a problem with the name of the file when it holds
 * none that can be read, or one that is too long.
 */
export function decodeSound(path: string, fileName: string, sampleRate: number): Promise<Pcm> {
  return inTemporaryFolder(async folder => {
    const decoded = join(folder, 'sound.raw')
    await runFfmpeg([
      ...guarded, '-i', path,
      '-map', '0:a:0', '-t', String(maximumSoundSeconds + 1), '-ac', '1', '-ar', String(sampleRate), '-f', 's16le', decoded,
    ], Readable.from([])).catch((error: unknown) => {
      if (error instanceof EncoderLostError || error instanceof ProblemError && error.problem.code === 'encoder-failed') {
        fail('sound-unreadable', `${fileName} is no sound that can be read. Bring in WAV, FLAC, MP3, Ogg, M4A or AIFF.`)
      }
      throw error
    })
    const samples = samplesOf(await readFile(decoded))
    if (samples.length === 0) fail('sound-unreadable', `There is no sound in ${fileName}. Choose another file.`)
    if (samples.length > maximumSoundSeconds * sampleRate) fail('sound-too-long', `${fileName} is longer than ${maximumSoundSeconds / 60} minutes. Cut it.`)
    return { samples, sampleRate }
  })
}
