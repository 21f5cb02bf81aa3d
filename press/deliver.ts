import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { layTrack } from '#core/audio/track'
import { deliveredSampleCount, manifestSentences, roundedMs, type Manifest, type ManifestFile } from '#core/delivery/manifest'
import type { DeliveryProfile } from '#core/delivery/profile'
import { fail } from '#core/problem'
import { soundNamesIn } from '#core/score/compile'
import { fileFingerprint, soundOf, tagsFor, type DeliveredWork, type RunSheetFile } from '#core/runsheet/run-sheet'
import { takesOf, withKnown } from '#core/takes/choose'
import { takeLoader, type TakeLibrary } from '#takes/library'
import type { FileStorage } from '#takes/storage'
import { encodeTrack } from './encode'
import { encoderName, EncoderLostError } from './ffmpeg'

export interface DeliveredFile extends ManifestFile {
  readonly bytes: number
  readonly fingerprint: string
}

/** Where the files of a delivery are: a folder of a storage. */
export interface DeliveryPlace {
  readonly storage: FileStorage
  readonly folder: string
}

/** The name that a file of a delivery has in its storage. */
export const nameIn = ({ folder }: DeliveryPlace, file: string): string => `${folder}/${file}`

/** A finished file of the storage. */
export interface FinishedFile {
  readonly name: string
  /** Hex. */
  readonly sha256: string
}

export interface DeliverOptions {
  /** A finished file with this fingerprint, if one is kept; it is used when it is intact. */
  readonly earlier?: (fingerprint: string) => Promise<FinishedFile | null>
  readonly onFile?: (file: DeliveredFile) => Promise<void> | void
  readonly stopped?: () => boolean
  /** Files of the whole run sheet, where not all of them are made. */
  readonly of?: number
  /** Hz, of the tracks. */
  readonly trackRate: number
}

const filesAtOnce = 2

/**
 * Makes the files of a run sheet in a folder of a storage, two at a time, and `manifest.json` last. Every take must
 * exist. A file appears under its name only when it is complete and there to stay.
 */
export async function deliver(
  files: readonly RunSheetFile[], work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, place: DeliveryPlace,
  options: DeliverOptions,
): Promise<DeliveredFile[]> {
  // The longest first, so that the last ones end together.
  const length = (file: RunSheetFile): number => file.part.score.utterances.reduce((sum, utterance) => sum + utterance.text.length, 0)
  const queue = [...files].sort((a, b) => length(b) - length(a))
  const delivered: DeliveredFile[] = []
  const workOff = async (): Promise<void> => {
    while (options.stopped?.() !== true) {
      const file = queue.shift()
      if (file === undefined) return
      try {
        const made = await makeFile(file, options.of ?? files.length, work, profile, library, place, options)
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
  if (delivered.length === files.length) await place.storage.put(nameIn(place, 'manifest.json'), Buffer.from(`${JSON.stringify(manifestOf(delivered, work), null, 2)}\n`))
  return delivered
}

async function makeFile(
  file: RunSheetFile, fileCount: number, work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, place: DeliveryPlace,
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
  const name = nameIn(place, file.name)
  const encode = (path: string): Promise<void> => encodeTrack(track, takeLoader(library, records, sounds, options.trackRate), profile, tags, path)
  const { sha256, bytes } = await takenOver(await options.earlier?.(fingerprint) ?? null, name, place) ?? await encoded(encode, file.name, name, place)
  return {
    number: file.number, name: file.name, title: file.title, parts: file.parts,
    durationMs: roundedMs(track.sampleCount, track.sampleRate),
    sampleCount: deliveredSampleCount(track, profile.sampleRate),
    sha256, sentences: manifestSentences(track),
    bytes, fingerprint,
  }
}

interface Made {
  readonly sha256: string
  readonly bytes: number
}

/** Uses an earlier file under this name, when there is one that can be read and is intact. */
async function takenOver(earlier: FinishedFile | null, name: string, { storage }: DeliveryPlace): Promise<Made | null> {
  if (earlier === null || await sha256Of(storage, earlier.name).catch(() => null) !== earlier.sha256) return null
  if (earlier.name !== name) await storage.copy(earlier.name, name)
  return { sha256: earlier.sha256, bytes: (await storage.find(name))!.bytes }
}

/** Encodes a file, once more when the encoder was lost. */
async function encoded(encode: (path: string) => Promise<void>, fileName: string, name: string, { storage }: DeliveryPlace): Promise<Made> {
  const draft = await storage.draft(name)
  try {
    await encode(draft.path).catch((error: unknown) => {
      if (error instanceof EncoderLostError) return encode(draft.path)
      throw error
    }).catch((error: unknown) => {
      if (error instanceof EncoderLostError) fail('encoder-lost', 'The encoder was ended from outside, or hung, twice. Check the memory of the machine and deliver again.', fileName)
      throw error
    })
    const made = { sha256: await digestOf(createReadStream(draft.path)), bytes: (await stat(draft.path)).size }
    await draft.commit()
    return made
  } finally {
    await draft.discard()
  }
}

function manifestOf(files: readonly DeliveredFile[], work: DeliveredWork): Manifest {
  return {
    version: 1, title: work.title, language: work.language,
    files: files.map(({ bytes: _, fingerprint: __, ...file }) => file),
  }
}

/** SHA-256 (hex) of a file; null when it is not there. */
export async function sha256Of(storage: FileStorage, name: string): Promise<string | null> {
  const bytes = await storage.stream(name)
  return bytes === null ? null : digestOf(bytes)
}

async function digestOf(bytes: Readable): Promise<string> {
  const digest = createHash('sha256')
  for await (const chunk of bytes) digest.update(chunk as Buffer)
  return digest.digest('hex')
}
