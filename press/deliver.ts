import { createHash } from 'node:crypto'
import PQueue from 'p-queue'
import { layTrack, type Track } from '#core/audio/track'
import { soundOfHead, type FileHead, type FileLevels, type Finding, type ScriptPlace } from '#core/delivery/conformance'
import { judgeMade, placed, type ExpectedContents, type SpokenSpan } from '#core/delivery/contents'
import { checksums, checksumsName, coverName, cueSheets, manifestName, playlist, playlistName, type Extra } from '#core/delivery/lists'
import { manifestSentences, roundedMs, toThousandths, type Manifest, type ManifestFile } from '#core/delivery/manifest'
import type { DeliveryProfile } from '#core/delivery/profile'
import { byItself, judgedTogether } from '#core/delivery/together'
import { gainFor } from '#core/mastering/gain'
import { fail } from '#core/problem'
import type { LevelSample } from '#core/runsheet/level-sample'
import { soundNamesIn } from '#core/score/compile'
import { fileFingerprint, tagsFor, type DeliveredWork, type FileTags, type RunSheetFile } from '#core/runsheet/run-sheet'
import { takesOf, withKnown } from '#core/takes/choose'
import { takeLoader, type TakeLibrary } from '#takes/library'
import { sha256OfFile } from '#takes/sha256'
import type { FileStorage } from '#takes/storage'
import { readHead } from './examine'
import { encoderName } from './ffmpeg'
import type { CoverPicture } from './formats/format'
import { PieceEncoder } from './piece-encoder'
import { PieceStore } from './piece-store'
import { productionLevel } from './production-level'
import { withLessNoise } from './recordings'
import { chaptersIn, deliveredSamples, encoderProblem, gridOf, PieceDamagedError, pressTrack, writeFile, type KnownGains, type Press, type PressedFile } from './press-track'

export interface DeliveredFile extends ManifestFile {
  readonly bytes: number
  readonly fingerprint: string
  readonly levels: FileLevels
  /** What of the profile it does not keep. */
  readonly findings: readonly Finding[]
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
  readonly levels: FileLevels
  readonly findings: readonly Finding[]
}

export interface DeliverOptions {
  /** The picture on the cover of the work. */
  readonly cover?: CoverPicture | null
  /** Where encoded pieces are kept. */
  readonly pieces: FileStorage
  /** The gain (dB) that a file had when it was made last: it stays while the level is within its tolerance. */
  readonly gainBefore?: (file: RunSheetFile) => Promise<number | null>
  /** By what the level of the production is found, and the gain (dB) that it had before, where its profile gives all files one. */
  readonly production?: { readonly sample: LevelSample, readonly beforeDb: number | null }
  /** A finished file with this fingerprint, if one is kept; it is used when it is intact. */
  readonly earlier?: (fingerprint: string) => Promise<FinishedFile | null>
  /** The encoded pieces that a file was put together from. */
  readonly onPieces?: (keys: readonly string[]) => Promise<void>
  readonly onFile?: (file: DeliveredFile) => Promise<void> | void
  readonly stopped?: () => boolean
  /** Files of the whole run sheet, where not all of them are made. */
  readonly of?: number
  /** Hz, of the tracks. */
  readonly trackRate: number
}

/** Files in hand at once: many short ones share the start of an encoder. */
const filesAtOnce = 8

/**
 * Makes the files of a run sheet in a folder of a storage, then what the profile has beside them, `manifest.json`, and checksums of all of them. Every take must
 * exist. A file appears under its name only when it is complete and there to stay. What files do not keep together is told when all are there.
 */
export async function deliver(
  files: readonly RunSheetFile[], work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, place: DeliveryPlace,
  options: DeliverOptions,
): Promise<DeliveredFile[]> {
  // The longest first, so that the last ones end together.
  const length = (file: RunSheetFile): number => file.score.utterances.reduce((sum, utterance) => sum + utterance.text.length, 0)
  const press = { encoder: new PieceEncoder(profile), store: new PieceStore(options.pieces), encoderName: await encoderName(), making: new Map() }
  const productionDb = await productionGain(profile, library, options)
  const queue = new PQueue({ concurrency: filesAtOnce })
  const delivered: DeliveredFile[] = []
  let failed = false
  const ends = await Promise.allSettled([...files].sort((a, b) => length(b) - length(a)).map(file => queue.add(async () => {
    // When one fails the others in hand are still made, so that nothing writes any more when this rejects.
    if (failed || options.stopped?.() === true) return
    try {
      const made = await makeFile(file, options.of ?? files.length, work, profile, library, place, press, { ...options, productionDb })
      delivered.push(made)
      await options.onFile?.(made)
    } catch (error) {
      failed = true
      throw error
    }
  })))
  for (const end of ends) if (end.status === 'rejected') throw end.reason
  delivered.sort((a, b) => a.number - b.number)
  if (delivered.length < files.length) return delivered
  await writeExtras(manifestOf(delivered, work), work, profile, options.cover ?? null, place)
  return judgedTogether(delivered, options.of ?? files.length)
}

/** The gain (dB) that all files begin with; null where each has its own. */
async function productionGain(profile: DeliveryProfile, library: TakeLibrary, { production, trackRate }: DeliverOptions): Promise<number | null> {
  const { target, gainPer } = profile
  if (production === undefined || target === null || gainPer === 'file') return null
  const { sample, beforeDb } = production
  const records = await library.index.find(sample.takes.map(({ take }) => take))
  const load = takeLoader(library, records, new Map(), trackRate)
  // One that is gone does not count: it is heard in none of these files, or it is found out there. One that is damaged is mended like any other.
  const levelDb = await productionLevel(sample, profile, take => records.has(take) ? load(take) : Promise.resolve(null), trackRate)
  return levelDb === null ? null : gainFor(levelDb, target, beforeDb)
}

async function makeFile(
  file: RunSheetFile, fileCount: number, work: DeliveredWork, profile: DeliveryProfile, library: TakeLibrary, place: DeliveryPlace, press: Press,
  options: DeliverOptions & Pick<KnownGains, 'productionDb'>,
): Promise<DeliveredFile> {
  const { score } = file
  const sounds = soundNamesIn(score)
  const records = await library.index.find([...takesOf(file.references), ...sounds.keys()])
  const references = withKnown(file.references, records)
  const missing = references.find(({ known }) => known === null)
  if (missing !== undefined) fail('take-lost', `The audio of “${score.utterances[missing.from]!.text.slice(0, 60)}” is missing. Read what is missing, and deliver again.`, file.name)
  const laid = { track: layTrack(score, references, options.trackRate, profile), load: takeLoader(library, records, sounds, options.trackRate) }
  const { track, load } = withLessNoise(laid, sounds, profile.denoiseDb)
  const grid = gridOf(track, profile)
  const tags = tagsFor(file, fileCount, work)
  const fingerprint = fileFingerprint(file.sound, tags, profile, press.encoderName)
  const name = nameIn(place, file.name)
  const sampleCount = deliveredSamples(grid, profile)
  const chapters = chaptersIn(grid, file.chapters)
  const made = await takenOver(await options.earlier?.(fingerprint) ?? null, name, place)
    ?? await pressed(async path => {
      const pressedFile = await pressTrack(grid, profile, load, press, { productionDb: options.productionDb, beforeDb: await options.gainBefore?.(file) ?? null })
      await writeFile(pressedFile, { tags, chapters, cover: options.cover ?? null }, profile, press.store, path)
      await options.onPieces?.(pressedFile.pieces.map(({ key }) => key))
      return pressedFile
    }, (head, { measures, levels }) => judgeMade({ ...head, measures }, expectedOf(grid.track, tags, roundedMs(sampleCount, profile.sampleRate)), profile, levels), file.name, name, place)
  const said = utterancesIn(grid.track)
  return {
    number: file.number, name: file.name, title: file.title, parts: file.parts,
    durationMs: roundedMs(sampleCount, profile.sampleRate), sampleCount,
    chapters: chapters.map(({ title, startMs, endMs }) => ({ title, startMs: toThousandths(startMs), endMs: toThousandths(endMs) })), sentences: manifestSentences(grid.track),
    ...made, findings: made.findings.map(finding => placed(finding, said)), fingerprint,
  }
}

/** What a file with these tags is to hold. */
function expectedOf({ timeline, lanes, sampleRate }: Track, { title, album, author, track, trackCount, chapters, cover }: FileTags, durationMs: number): ExpectedContents {
  const takes = new Set(timeline.map(({ take }) => take))
  const inMs = (samples: number): number => samples * 1000 / sampleRate
  return {
    title, album, author, track: { number: track, of: trackCount }, chapters: chapters.length, hasCover: cover !== null, durationMs,
    spoken: lanes.speech.filter(piece => piece.take !== null && takes.has(piece.take)).map(piece => ({ startMs: inMs(piece.startSample), endMs: inMs(piece.startSample + piece.sampleCount) })),
  }
}

function utterancesIn({ timeline, sampleRate }: Track): (ScriptPlace & SpokenSpan)[] {
  return timeline.map(({ utterance: { passageId, key, text }, startSample, endSample }) => ({ passageId, key, text, startMs: startSample * 1000 / sampleRate, endMs: endSample * 1000 / sampleRate }))
}

interface Made {
  readonly sha256: string
  readonly bytes: number
  readonly levels: FileLevels
  readonly findings: readonly Finding[]
}

/** Uses an earlier file under this name, when there is one that can be read and is intact. */
async function takenOver(earlier: FinishedFile | null, name: string, { storage }: DeliveryPlace): Promise<Made | null> {
  if (earlier === null || await storage.sha256(earlier.name).catch(() => null) !== earlier.sha256) return null
  if (earlier.name !== name) await storage.copy(earlier.name, name)
  return { sha256: earlier.sha256, levels: earlier.levels, findings: byItself(earlier.findings), bytes: (await storage.find(name))!.bytes }
}

/** Makes a file, once more when one of its pieces was damaged, and judges it by what was measured of it. */
async function pressed(
  make: (path: string) => Promise<PressedFile>, judge: (head: FileHead, file: PressedFile) => Finding[], fileName: string, name: string, { storage }: DeliveryPlace,
): Promise<Made> {
  const draft = await storage.draft(name)
  try {
    const file = await make(draft.path).catch((error: unknown) => {
      if (error instanceof PieceDamagedError) return make(draft.path)
      throw error
    }).catch((error: unknown) => encoderProblem(error, fileName))
    const [head, sha256] = await Promise.all([readHead(draft.path, fileName), sha256OfFile(draft.path), draft.settle()])
    const made = { levels: { ...file.levels, sound: soundOfHead(head) }, bytes: head.bytes, sha256, findings: judge(head, file) }
    await draft.commit()
    return made
  } finally {
    await draft.discard()
  }
}

async function writeExtras(manifest: Manifest, { author }: DeliveredWork, profile: DeliveryProfile, cover: CoverPicture | null, place: DeliveryPlace): Promise<void> {
  const written = (name: string, text: string): { name: string, bytes: Buffer } => ({ name, bytes: Buffer.from(text) })
  const making: Readonly<Record<Extra, () => { name: string, bytes: Buffer }[]>> = {
    playlist: () => [written(playlistName, playlist(manifest))],
    cueSheets: () => cueSheets({ ...manifest, author }).map(({ name, text }) => written(name, text)),
    cover: () => cover === null ? [] : [{ name: coverName(cover), bytes: cover.bytes }],
  }
  const extras = [...profile.extras.flatMap(extra => making[extra]()), written(manifestName, `${JSON.stringify(manifest, null, 2)}\n`)]
  const sums = checksums([...manifest.files, ...extras.map(({ name, bytes }) => ({ name, sha256: createHash('sha256').update(bytes).digest('hex') }))])
  for (const { name, bytes } of [...extras, written(checksumsName, sums)]) await place.storage.put(nameIn(place, name), bytes)
}

function manifestOf(files: readonly DeliveredFile[], work: DeliveredWork): Manifest {
  return {
    version: 1, title: work.title, language: work.language,
    files: files.map(({ bytes: _, fingerprint: __, levels: ___, findings: ____, ...file }) => file),
  }
}
