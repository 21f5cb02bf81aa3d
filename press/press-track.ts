import { figuresOf, type FileLevels } from '#core/delivery/conformance'
import { renderTrack, type Track } from '#core/audio/track'
import type { SoundSettings } from '#core/delivery/formats'
import type { FileChapter } from '#core/delivery/manifest'
import { countsTwice, isWithin, levelSpan, type DeliveryProfile } from '#core/delivery/profile'
import { hash } from '#core/hash'
import { throughEqualiser } from '#core/mastering/equaliser'
import { gainFor, type LevelTarget } from '#core/mastering/gain'
import { master, type Mastering } from '#core/mastering/master'
import { levelBy, measureForLevel, toDb, type LevelParts, type Measure } from '#core/mastering/measure'
import { fail } from '#core/problem'
import { onGrid, type GridTrack, type Stretch } from '#core/runsheet/grid'
import type { ChapterStart, FileTags } from '#core/runsheet/run-sheet'
import { windowOf } from '#core/runsheet/window'
import { EncoderLostError } from './ffmpeg'
import { fileFormat } from './formats'
import type { CoverPicture } from './formats/format'
import type { PieceEncoder } from './piece-encoder'
import type { EncodedPiece, NewPiece, PieceStore } from './piece-store'
import { Scratch } from './scratch'

/** Part of every key: another one makes all pieces anew. */
const pieceRevision = 4

/** A file is levelled again when encoding has moved it out of its tolerance, so often at most. */
const mostRounds = 3

type Load = (take: string) => Promise<Int16Array>

/** What encodes, and what keeps what is encoded. */
export interface Press {
  readonly encoder: PieceEncoder
  readonly store: PieceStore
  /** Name and version of the encoder. */
  readonly encoderName: string
  /** Pieces that are being made, by their keys: files that need the same one wait for it. */
  readonly making: Map<string, Promise<EncodedPiece>>
}

/** A piece of a file that is there. */
interface PressedPiece {
  readonly key: string
  readonly piece: EncodedPiece
}

/** A file in encoded pieces. */
export interface PressedFile {
  readonly pieces: readonly PressedPiece[]
  readonly measures: readonly Measure[]
  readonly levels: FileLevels
  /** Samples of the file when it is decoded. */
  readonly sampleCount: number
}

/** The track of a file as it is encoded: its pieces on the frames of the encoder. */
export function gridOf(track: Track, profile: DeliveryProfile): GridTrack {
  const { sampleRate, headMs } = profile
  return onGrid(track, { frameSamples: fileFormat(profile).frameSamples, sampleRate, headMs })
}

/** Gains to begin with, dB. */
export interface KnownGains {
  /** The one that the file had before: it stays while it can. */
  readonly beforeDb: number | null
  /** The one of the whole production: it stays while it keeps the file within its limits. */
  readonly productionDb: number | null
}

/**
 * Encodes what is not kept yet of a track, at the level that the profile asks for. Rejects with a problem when a take is lost, the disk is full, or the encoder does not work.
 */
export async function pressTrack({ track, stretches }: GridTrack, profile: DeliveryProfile, load: Load, press: Press, { beforeDb, productionDb }: KnownGains): Promise<PressedFile> {
  const { target } = profile
  const span = levelSpan(profile)
  const measured = async (): Promise<number> => target === null ? 0 : gainFor(await trackLevel(track, stretches, profile, target, load), target, beforeDb)
  let gainDb = productionDb ?? beforeDb ?? await measured()
  for (let round = 1; ; round += 1) {
    const pieces = await Promise.all(stretches.map((stretch, index) => pressPiece(track, stretch, index === stretches.length - 1, gainDb, profile, load, press)))
    const measures = pieces.map(({ piece }) => piece.measure)
    const levelDb = target === null ? 0 : levelBy(target.measure, measures, profile.dualMono && profile.channels === 1)
    const isOfProduction = round === 1 && productionDb !== null
    const isKept = target === null || isOfProduction && span !== null && isWithin(levelDb, span)
    // How far off one for all was is not told by what it has made of the peaks.
    const wanted = isKept ? gainDb : isOfProduction ? await measured() : gainFor(levelDb - gainDb, target, gainDb)
    if (wanted === gainDb || round === mostRounds) return { pieces, measures, levels: fileLevels(pieces, measures, gainDb, profile), sampleCount: deliveredSamples({ track, stretches }, profile) }
    gainDb = wanted
  }
}

function fileLevels(pieces: readonly PressedPiece[], measures: readonly Measure[], gainDb: number, profile: DeliveryProfile): FileLevels {
  return {
    gainDb, ...figuresOf({ measures, sampleRate: profile.sampleRate, channels: profile.channels }, profile),
    limited: {
      count: pieces.reduce((sum, { piece }) => sum + piece.limited.count, 0),
      mostDb: pieces.reduce((most, { piece }) => Math.max(most, piece.limited.mostDb), 0),
    },
  }
}

/** The level of a track before it is mastered. */
async function trackLevel(track: Track, stretches: readonly Stretch[], profile: DeliveryProfile, target: LevelTarget, load: Load): Promise<number> {
  const scratch = new Scratch()
  const measures: LevelParts[] = []
  for (const { startSample, endSample } of stretches) {
    const samples = await rendered(renderTrack(track, load, startSample, endSample, stretchesIn(scratch)), scratch.samples('rendered', endSample - startSample))
    measures.push(measureForLevel(throughEqualiser(samples, profile.equaliser, track.sampleRate), track.sampleRate, target.measure))
  }
  return levelBy(target.measure, measures, countsTwice(profile))
}

/** Stretches of a track lie here until they are copied. */
const stretchesIn = (scratch: Scratch) => (count: number): Int16Array => scratch.samples('stretch', count)

/** All samples of stretches that follow one another, written into `samples`. */
export async function rendered(stretches: AsyncIterable<Int16Array>, samples: Int16Array): Promise<Int16Array> {
  let at = 0
  for await (const each of stretches) {
    samples.set(each, at)
    at += each.length
  }
  return samples.fill(0, at)
}

/** Samples of a track at the rate of the file, up to its end. */
export function deliveredSamples({ track: { sampleRate }, stretches }: GridTrack, profile: DeliveryProfile): number {
  const last = stretches.at(-1)!
  const before = stretches.slice(0, -1).reduce((frames, stretch) => frames + stretch.frames, 0)
  return before * fileFormat(profile).frameSamples + Math.ceil((last.endSample - last.startSample) * profile.sampleRate / sampleRate)
}

async function pressPiece(track: Track, { startSample, endSample, frames }: Stretch, isLast: boolean, gainDb: number, profile: DeliveryProfile, load: Load, { encoder, store, encoderName, making }: Press): Promise<PressedPiece> {
  const { frameSamples, preRollFrames, postRollFrames, delay } = fileFormat(profile)
  const inTrack = (count: number): number => Math.round(count * frameSamples * track.sampleRate / profile.sampleRate)
  const samples = isLast ? Math.ceil((endSample - startSample) * profile.sampleRate / track.sampleRate) : frames * frameSamples
  // What the decoder still holds back at the end takes frames of its own.
  const allFrames = isLast ? Math.ceil((delay + samples) / frameSamples) : frames
  const window = windowOf(track, startSample - inTrack(preRollFrames), Math.max(endSample, startSample + inTrack(allFrames)) + inTrack(postRollFrames), [startSample, endSample])
  const { format, bitRateKbps, bits, sampleRate, channels, ceilingDb, equaliser } = profile
  const settings: SoundSettings = { format, bitRateKbps, bits, sampleRate, channels }
  const key = hash([pieceRevision, encoderName, settings, ceilingDb, gainDb, allFrames, isLast ? samples : null, window, ...(equaliser === null ? [] : [equaliser])])
  const encodedLower = (byDb: number): Promise<NewPiece> => encoder.encode({
    trackRate: track.sampleRate, frames: allFrames, samples, isLast,
    render: async scratch => {
      const { sampleRate: trackRate, sampleCount } = window
      const heard = await rendered(renderTrack(window, load, 0, sampleCount, stretchesIn(scratch)), scratch.samples('rendered', sampleCount))
      const { samples: levelled, limited: { places, mostDb } } = master(heard, trackRate, masteringFor(profile, gainDb, byDb), scratch.floats('levelled', sampleCount))
      const first = inTrack(preRollFrames)
      return { samples: levelled, limited: { count: places.filter(place => place >= first && place < first + endSample - startSample).length, mostDb } }
    },
  })
  const make = async (): Promise<EncodedPiece> => await store.find(key) ?? store.put(key, await heldBelow(ceilingDb ?? Infinity, encodedLower))
  const made = making.get(key) ?? make().finally(() => { making.delete(key) })
  making.set(key, made)
  return { key, piece: await made }
}

/** A piece whose peaks encoding has raised above the ceiling is encoded again, so often at most. */
const mostHolds = 4

/** Peaks are held by so much more than they are above the ceiling, dB. */
const holdMarginDb = 0.1

/** Encodes a piece with its peaks held lower and lower, until none is above a ceiling (dBFS) when it is decoded. */
async function heldBelow(ceilingDb: number, encodedLower: (byDb: number) => Promise<NewPiece>): Promise<NewPiece> {
  let byDb = 0
  for (let round = 1; ; round += 1) {
    const piece = await encodedLower(byDb)
    const overDb = toDb(piece.measure.truePeak) - ceilingDb
    if (overDb <= 0 || round === mostHolds) return piece
    byDb += overDb + holdMarginDb
  }
}

/** Encoding moves peaks by up to a quarter of a dB, seldom by more; measured. */
const encodingMovesDb = 0.5

/** What is done to a file that is to have a gain when it is decoded: the encoder takes something away. Peaks are held lower than usual by `lowerDb`. */
export function masteringFor(profile: DeliveryProfile, gainDb: number, lowerDb = 0): Mastering {
  const { ceilingDb, equaliser } = profile
  const { lossDb } = fileFormat(profile)
  return { equaliser, gainDb: gainDb + lossDb, ceilingDb: ceilingDb === null ? null : ceilingDb + lossDb - encodingMovesDb - lowerDb }
}

/** What is written into a file besides its sound. */
export interface FileLabels {
  readonly tags: FileTags
  readonly chapters: readonly FileChapter[]
  readonly cover: CoverPicture | null
}

/** Where the chapters of a file begin and end in it: the first with the file, the others with what is first heard of them. */
export function chaptersIn({ track: { timeline, sampleRate, sampleCount } }: GridTrack, starts: readonly ChapterStart[]): FileChapter[] {
  const inMs = (samples: number): number => samples * 1000 / sampleRate
  const begins = starts.map(({ from }, index) => index === 0 ? 0 : inMs(timeline[from]!.leadSample))
  return starts.map(({ title }, index) => ({ title, startMs: begins[index]!, endMs: begins[index + 1] ?? inMs(sampleCount) }))
}

/** Puts a file together from its pieces. A piece that is damaged is removed, and the promise rejects with `PieceDamagedError`. */
export async function writeFile({ pieces, sampleCount }: PressedFile, labels: FileLabels, settings: SoundSettings, store: PieceStore, path: string): Promise<void> {
  const sum = (value: (piece: EncodedPiece) => number): number => pieces.reduce((total, { piece }) => total + value(piece), 0)
  await fileFormat(settings).write({ ...labels, pieces: scratch => whole(pieces, store, scratch), frames: sum(piece => piece.frames), bytes: sum(piece => piece.length), sampleCount }, path)
}

async function* whole(pieces: readonly PressedPiece[], store: PieceStore, scratch?: Scratch): AsyncGenerator<Buffer> {
  for (const { key, piece } of pieces) {
    const read = await store.frames(key, piece, scratch)
    if (read === null) {
      await store.remove(key)
      throw new PieceDamagedError(key)
    }
    yield read
  }
}

/** An encoded piece was damaged on the disk and is gone; it can be made again. */
export class PieceDamagedError extends Error {
  override readonly name = 'PieceDamagedError'
}

/** What an encoder that is ended again and again becomes for the user. */
export function encoderProblem(error: unknown, fileName: string): never {
  if (error instanceof EncoderLostError) fail('encoder-lost', 'The encoder was ended from outside, or hung, twice. Check the memory of the machine and deliver again.', fileName)
  throw error
}
