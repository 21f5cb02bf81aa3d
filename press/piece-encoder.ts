import { statSync } from 'node:fs'
import { readFile, writeFile } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import PQueue from 'p-queue'
import type { SoundSettings } from '#core/delivery/formats'
import { combined, measure, type Measure } from '#core/mastering/measure'
import { channelOf } from './channels'
import type { NewPiece } from './piece-store'
import { EncoderLostError, runFfmpeg } from './ffmpeg'
import { fileFormat } from './formats'
import type { FileFormat, Ffmpeg, Threads } from './formats/format'
import { floatsAtRate } from './libraries/soxr'
import { Scratch } from './scratch'
import { inTemporaryFolder } from './temporary-folder'

/** A piece that is to be encoded. */
export interface PieceJob {
  /** Samples with what is before and after them (full scale is 1), levelled; they may lie in the scratch. */
  readonly render: (scratch: Scratch) => Promise<{ readonly samples: Float32Array, readonly limited: NewPiece['limited'] }>
  /** Hz, of these samples. */
  readonly trackRate: number
  /** Frames of the piece. */
  readonly frames: number
  /** Samples of it that belong to the file: the last frames of a file only give these out. */
  readonly samples: number
  /** The file ends with it. */
  readonly isLast: boolean
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
 * Encodes pieces of tracks, each with an encoder of its own, as many at once as keep the processors busy: in threads, or in processes, several to each. What an encoder gave is decoded again at once
 * and measured.
 */
export class PieceEncoder {
  readonly #settings: SoundSettings
  readonly #format: FileFormat
  readonly #queue: PQueue
  readonly #scratches: Scratch[] = []
  #waiting: Waiting[] = []
  #timer: NodeJS.Timeout | null = null

  constructor(settings: SoundSettings) {
    this.#settings = settings
    this.#format = fileFormat(settings)
    // While one piece is rendered or measured, which only this thread does, as many others as there are processors are encoded.
    const rendering = 'encode' in this.#format.coder ? 1 : 0
    this.#queue = new PQueue({ concurrency: availableParallelism() + rendering })
  }

  /** Rejects with a problem when the encoder is missing or fails, or with `EncoderLostError` when it was ended twice. */
  encode(job: PieceJob): Promise<NewPiece> {
    const { coder } = this.#format
    // Nothing is said to be void where there is no limit of time.
    if ('encode' in coder) return this.#queue.add(() => this.#encodeInThread(job, coder)) as Promise<NewPiece>
    return new Promise((done, failed) => {
      this.#waiting.push({ job, done, failed })
      if (this.#waiting.length >= piecesTogether) this.#begin(coder)
      else this.#timer ??= setTimeout(() => this.#begin(coder), patienceMs)
    })
  }

  #begin(coder: Ffmpeg): void {
    if (this.#timer !== null) clearTimeout(this.#timer)
    this.#timer = null
    const together = this.#waiting
    this.#waiting = []
    void this.#queue.add(() => this.#encodeTogether(together, coder))
  }

  async #encodeTogether(together: readonly Waiting[], coder: Ffmpeg): Promise<void> {
    try {
      const jobs = together.map(({ job }) => job)
      const encode = (): Promise<NewPiece[]> => inTemporaryFolder(folder => this.#encodeIn(folder, jobs, coder))
      const pieces = await encode().catch((error: unknown) => {
        if (error instanceof EncoderLostError) return encode()
        throw error
      })
      together.forEach(({ done }, index) => done(pieces[index]!))
    } catch (error) {
      for (const { failed } of together) failed(error)
    }
  }

  async #encodeInThread(job: PieceJob, { encode, decode }: Threads): Promise<NewPiece> {
    const scratch = this.#scratches.pop() ?? new Scratch()
    try {
      const { samples, limited } = await job.render(scratch)
      const stream = await encode(await floatsAtRate(samples, job.trackRate, this.#settings.sampleRate, scratch), scratch)
      const piece = this.#pieceOf(job, limited, stream, await decode(stream, scratch))
      return { ...piece, bytes: Buffer.from(piece.bytes) }
    } finally {
      this.#scratches.push(scratch)
    }
  }

  async #encodeIn(folder: string, jobs: readonly PieceJob[], { encoding, decoding }: Ffmpeg): Promise<NewPiece[]> {
    const path = (index: number, extension: string): string => join(folder, `${index}.${extension}`)
    const each = <T>(make: (index: number) => readonly T[]): T[] => jobs.flatMap((_, index) => [...make(index)])
    const scratch = new Scratch()
    const limited: NewPiece['limited'][] = []
    for (const [index, job] of jobs.entries()) {
      const rendered = await job.render(scratch)
      limited.push(rendered.limited)
      await writeFile(path(index, 'f32'), new Uint8Array(rendered.samples.buffer, rendered.samples.byteOffset, rendered.samples.byteLength))
    }
    await run([
      ...each(index => ['-f', 'f32le', '-ar', String(jobs[index]!.trackRate), '-ac', '1', '-i', path(index, 'f32')]),
      ...each(index => ['-map', `${index}:a`, '-af', this.#filters(jobs[index]!), ...encoding, path(index, 'encoded')]),
    ], jobs.map((_, index) => path(index, 'encoded')))
    await run([
      ...each(index => [...decoding, '-i', path(index, 'encoded')]),
      ...each(index => ['-map', `${index}:a`, '-f', 's16le', path(index, 's16')]),
    ], jobs.map((_, index) => path(index, 's16')))
    const pieces: NewPiece[] = []
    for (const [index, job] of jobs.entries()) {
      const decoded = await readFile(path(index, 's16'))
      pieces.push(this.#pieceOf(job, limited[index]!, await readFile(path(index, 'encoded')), new Int16Array(decoded.buffer, decoded.byteOffset, decoded.length >> 1)))
    }
    return pieces
  }

  #filters({ isLast, samples }: PieceJob): string {
    const { sampleRate, channels } = this.#settings
    const { frameSamples, preRollFrames, endsExactly } = this.#format
    return [
      `aresample=${sampleRate}`,
      ...(channels === 2 ? ['pan=stereo|c0=c0|c1=c0'] : []),
      ...(endsExactly && isLast ? [`atrim=end_sample=${preRollFrames * frameSamples + samples}`] : []),
    ].join(',')
  }

  /** What is kept of a stream, with the measure of what it is decoded to. */
  #pieceOf({ frames, samples: count }: PieceJob, limited: NewPiece['limited'], stream: Buffer, decoded: Int16Array): NewPiece {
    const { sampleRate, channels } = this.#settings
    const { frameSamples, preRollFrames, decodedDelay, cut } = this.#format
    const first = preRollFrames * frameSamples + decodedDelay
    const measures = Array.from({ length: channels }, (_, channel): Measure => measure(channelOf(decoded, channel, channels), sampleRate, first, first + count))
    return { bytes: cut(stream, preRollFrames, frames), frames, limited, measure: combined(measures) }
  }
}

/** What the encoder has written says whether it goes on. */
function run(parameters: readonly string[], outputs: readonly string[]): Promise<void> {
  return runFfmpeg(['-y', ...parameters], null, () => outputs.reduce((bytes, path) => bytes + (statSync(path, { throwIfNoEntry: false })?.size ?? 0), 0))
}
