import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { copyFile, link, mkdir, open, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { layTrack } from '#core/audio/track'
import { deliveredSampleCount, manifestSentences, roundedMs, type Manifest, type ManifestFile } from '#core/delivery/manifest'
import type { DeliveryProfile } from '#core/delivery/profile'
import { fail } from '#core/problem'
import { soundNamesIn } from '#core/score/compile'
import { fileFingerprint, soundOf, tagsFor, type DeliveredWork, type RunSheetFile } from '#core/runsheet/run-sheet'
import { takesOf, withKnown } from '#core/takes/choose'
import { takeLoader, type TakeLibrary } from '#takes/library'
import { encodeTrack } from './encode'
import { encoderName, EncoderLostError } from './ffmpeg'

export interface DeliveredFile extends ManifestFile {
  readonly bytes: number
  readonly fingerprint: string
}

export interface DeliverOptions {
  /** Path and digest of a finished file with this fingerprint, if one is kept; it is used when it is intact. */
  readonly earlier?: (fingerprint: string) => Promise<{ path: string, sha256: string } | null>
  readonly onFile?: (file: DeliveredFile) => Promise<void> | void
  readonly stopped?: () => boolean
  /** Files of the whole run sheet, where not all of them are made. */
  readonly of?: number
  /** Hz, of the tracks. */
  readonly trackRate: number
}

const filesAtOnce = 2

/**
 * Makes the files of a run sheet in a folder, two at a time, and `manifest.json` last. Every take must
 * exist. A file appears under its name only when it is complete and on disk.
 */
export async function deliver(
  files: readonly RunSheetFile[], work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, folder: string,
  options: DeliverOptions,
): Promise<DeliveredFile[]> {
  await mkdir(folder, { recursive: true })
  // The longest first, so that the last ones end together.
  const length = (file: RunSheetFile): number => file.part.score.utterances.reduce((sum, utterance) => sum + utterance.text.length, 0)
  const queue = [...files].sort((a, b) => length(b) - length(a))
  const delivered: DeliveredFile[] = []
  const workOff = async (): Promise<void> => {
    while (options.stopped?.() !== true) {
      const file = queue.shift()
      if (file === undefined) return
      try {
        const made = await makeFile(file, options.of ?? files.length, work, profile, library, folder, options)
        delivered.push(made)
        await options.onFile?.(made)
      } catch (error) {
        // The other file in hand is still made, so that nothing writes any more when this rejects.
        queue.length = 0
        throw error
      }
    }
  }
  const ends = await Promise.allSettled(Array.from({ length: filesAtOnce }, workOff))
  for (const end of ends) if (end.status === 'rejected') throw end.reason
  delivered.sort((a, b) => a.number - b.number)
  if (delivered.length === files.length) await writeManifest(manifestOf(delivered, work), folder)
  return delivered
}

async function makeFile(
  file: RunSheetFile, fileCount: number, work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, folder: string,
  options: DeliverOptions,
): Promise<DeliveredFile> {
  const { score } = file.part
  const sounds = soundNamesIn(score)
  const records = await library.index.find([...takesOf(file.part.references), ...sounds.keys()])
  const references = withKnown(file.part.references, records)
  const missing = references.find(({ known }) => known === null)
  if (missing !== undefined) fail('take-lost', `The audio of “${score.utterances[missing.from]!.text.slice(0, 60)}” is missing. Read what is missing, and deliver again.`, file.name)
  const track = layTrack(score, references, options.trackRate, profile)
  const tags = tagsFor(file, fileCount, work)
  const fingerprint = fileFingerprint(soundOf(score, references), tags, profile, await encoderName())
  const path = join(folder, file.name)
  const earlier = await options.earlier?.(fingerprint) ?? null
  if (earlier === null || !await takeOver(earlier, path)) {
    const beside = `${path}.part`
    try {
      const encode = (): Promise<void> => encodeTrack(track, takeLoader(library, records, sounds, options.trackRate), profile, tags, beside)
      await encode().catch((error: unknown) => {
        if (error instanceof EncoderLostError) return encode()
        throw error
      }).catch((error: unknown) => {
        if (error instanceof EncoderLostError) fail('encoder-lost', 'The encoder was ended from outside, or hung, twice. Check the memory of the machine and deliver again.', file.name)
        throw error
      })
      await putInPlace(beside, path)
    } catch (error) {
      await rm(beside, { force: true })
      throw error
    }
  }
  return {
    number: file.number, name: file.name, title: file.title, parts: file.parts,
    durationMs: roundedMs(track.sampleCount, track.sampleRate),
    sampleCount: deliveredSampleCount(track, profile.sampleRate),
    sha256: await sha256Of(path), sentences: manifestSentences(track),
    bytes: (await stat(path)).size, fingerprint,
  }
}

async function takeOver(earlier: { path: string, sha256: string }, path: string): Promise<boolean> {
  const intact = await sha256Of(earlier.path).then(digest => digest === earlier.sha256, () => false)
  if (!intact) return false
  if (earlier.path === path) return true
  await rm(path, { force: true })
  await link(earlier.path, path).catch(() => copyFile(earlier.path, path))
  return true
}

async function putInPlace(beside: string, path: string): Promise<void> {
  const file = await open(beside, 'r+')
  try {
    await file.sync()
  } finally {
    await file.close()
  }
  await rename(beside, path)
}

function manifestOf(files: readonly DeliveredFile[], work: DeliveredWork): Manifest {
  return {
    version: 1, title: work.title, language: work.language,
    files: files.map(({ bytes: _, fingerprint: __, ...file }) => file),
  }
}

async function writeManifest(manifest: Manifest, folder: string): Promise<void> {
  const path = join(folder, 'manifest.json')
  await writeFile(`${path}.part`, `${JSON.stringify(manifest, null, 2)}\n`)
  await putInPlace(`${path}.part`, path)
}

/** SHA-256 (hex) of a file. */
export async function sha256Of(path: string): Promise<string> {
  const digest = createHash('sha256')
  for await (const chunk of createReadStream(path)) digest.update(chunk as Buffer)
  return digest.digest('hex')
}
