import { statSync } from 'node:fs'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import PQueue from 'p-queue'
import { measure } from '#core/mastering/measure'
import type { NewPiece } from './piece-store'
import { EncoderLostError, runFfmpeg } from './ffmpeg'
import { mp3Delay, mp3Frames, mp3FrameSamplesAt } from './formats/mp3'

/** Frames that are encoded before a piece and thrown away, so that the encoder is in the state that it would have in the middle of a track. */
export const preRollFrames = 12
/** Frames after it, which the encoder looks ahead to. */
export const postRollFrames = 3

/** A piece that is to be encoded. */
export interface PieceJob {
  /** Samples with what is before and after them (full scale is 1), levelled. */
  readonly render: () => Promise<{ readonly samples: Float32Array, readonly limited: NewPiece['limited'] }>
  /** Hz, of these samples. */
  readonly trackRate: number
  /** Frames of the piece. */
  readonly frames: number
  /** Samples of it that belong to the file: the last frames of a file only give these out. */
  readonly samples: number
}

/** How the pieces are encoded. */
export interface PieceFormat {
  readonly bitRateKbps: number
  /** Hz */
  readonly sampleRate: number
}

/** Starting an encoder takes as long as encoding ten seconds: so many pieces share one. */
const piecesTogether = 8

/** Pieces that may still come are waited for so long, ms. */
const patienceMs = 30

interface Waiting {
  readonly job: PieceJob
  readonly done: (piece: NewPiece) => void
  readonly failed: (error: unknown) => void
}

/**
 * Encodes pieces of tracks, several to a process, with as many processes at once as there are processors; each piece with an encoder of its own. What an encoder gave is decoded again at once and measured.
 */
export class PieceEncoder {
  readonly #format: PieceFormat
  readonly #queue: PQueue
  #waiting: Waiting[] = []
  #timer: NodeJS.Timeout | null = null

  constructor(format: PieceFormat, parallel = availableParallelism()) {
    this.#format = format
    this.#queue = new PQueue({ concurrency: parallel })
  }

  /** Rejects with a problem when the encoder is missing or fails, or with `EncoderLostError` when it was ended twice. */
  encode(job: PieceJob): Promise<NewPiece> {
    return new Promise((done, failed) => {
      this.#waiting.push({ job, done, failed })
      if (this.#waiting.length >= piecesTogether) this.#begin()
      else this.#timer ??= setTimeout(() => this.#begin(), patienceMs)
    })
  }

  #begin(): void {
    if (this.#timer !== null) clearTimeout(this.#timer)
    this.#timer = null
    const together = this.#waiting
    this.#waiting = []
    void this.#queue.add(() => this.#encodeTogether(together))
  }

  async #encodeTogether(together: readonly Waiting[]): Promise<void> {
    try {
      const jobs = together.map(({ job }) => job)
      const pieces = await encodePieces(jobs, this.#format).catch((error: unknown) => {
        if (error instanceof EncoderLostError) return encodePieces(jobs, this.#format)
        throw error
      })
      together.forEach(({ done }, index) => done(pieces[index]!))
    } catch (error) {
      for (const { failed } of together) failed(error)
    }
  }
}

async function encodePieces(jobs: readonly PieceJob[], { bitRateKbps, sampleRate }: PieceFormat): Promise<NewPiece[]> {
  const folder = await mkdtemp(join(tmpdir(), 'quill-pieces-'))
  const path = (index: number, extension: string): string => join(folder, `${index}.${extension}`)
  const each = <T>(make: (index: number) => readonly T[]): T[] => jobs.flatMap((_, index) => [...make(index)])
  try {
    const limited: NewPiece['limited'][] = []
    for (const [index, job] of jobs.entries()) {
      const rendered = await job.render()
      limited.push(rendered.limited)
      await writeFile(path(index, 'f32'), new Uint8Array(rendered.samples.buffer, rendered.samples.byteOffset, rendered.samples.byteLength))
    }
    await run([
      ...each(index => ['-f', 'f32le', '-ar', String(jobs[index]!.trackRate), '-ac', '1', '-i', path(index, 'f32')]),
      ...each(index => ['-map', `${index}:a`, '-ar', String(sampleRate), '-c:a', 'libmp3lame', '-b:a', `${bitRateKbps}k`, '-reservoir', '0', '-write_xing', '0', '-id3v2_version', '0', '-f', 'mp3', path(index, 'mp3')]),
    ], jobs.map((_, index) => path(index, 'mp3')))
    await run([
      ...each(index => ['-f', 'mp3', '-i', path(index, 'mp3')]),
      ...each(index => ['-map', `${index}:a`, '-f', 's16le', path(index, 's16')]),
    ], jobs.map((_, index) => path(index, 's16')))
    const frameSamples = mp3FrameSamplesAt(sampleRate)
    const pieces: NewPiece[] = []
    for (const [index, { frames, samples: count }] of jobs.entries()) {
      const encoded = await readFile(path(index, 'mp3'))
      const places = mp3Frames(encoded)
      const bytes = encoded.subarray(places[preRollFrames]!, places[preRollFrames + frames]!)
      const decoded = await readFile(path(index, 's16'))
      const samples = new Int16Array(decoded.buffer, decoded.byteOffset, decoded.length >> 1)
      const first = preRollFrames * frameSamples + mp3Delay
      pieces.push({ bytes, frames, limited: limited[index]!, measure: measure(samples, sampleRate, first, first + count) })
    }
    return pieces
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** What the encoder has written says whether it goes on. */
function run(parameters: readonly string[], outputs: readonly string[]): Promise<void> {
  return runFfmpeg(['-y', ...parameters], null, () => outputs.reduce((bytes, path) => bytes + (statSync(path, { throwIfNoEntry: false })?.size ?? 0), 0))
}
