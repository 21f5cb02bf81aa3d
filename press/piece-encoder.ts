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
import { inTemporaryFolder } from './temporary-folder'

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
 * Encodes pieces of tracks, several to a process, with as many processes at once as there are processors; each piece with an encoder of its own. What an encoder gave is decoded again at once and measured.
 */
export class PieceEncoder {
  readonly #settings: SoundSettings
  readonly #queue: PQueue
  #waiting: Waiting[] = []
  #timer: NodeJS.Timeout | null = null

  constructor(settings: SoundSettings, parallel = availableParallelism()) {
    this.#settings = settings
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
      const encode = (): Promise<NewPiece[]> => inTemporaryFolder(folder => encodePieces(jobs, this.#settings, folder))
      const pieces = await encode().catch((error: unknown) => {
        if (error instanceof EncoderLostError) return encode()
        throw error
      })
      together.forEach(({ done }, index) => done(pieces[index]!))
    } catch (error) {
      for (const { failed } of together) failed(error)
    }
  }
}

async function encodePieces(jobs: readonly PieceJob[], settings: SoundSettings, folder: string): Promise<NewPiece[]> {
  const { sampleRate, channels } = settings
  const { frameSamples, preRollFrames, decodedDelay, endsExactly, encoding, decoding, cut } = fileFormat(settings)
  const path = (index: number, extension: string): string => join(folder, `${index}.${extension}`)
  const each = <T>(make: (index: number) => readonly T[]): T[] => jobs.flatMap((_, index) => [...make(index)])
  const filters = ({ isLast, samples }: PieceJob): string => [
    `aresample=${sampleRate}`,
    ...(channels === 2 ? ['pan=stereo|c0=c0|c1=c0'] : []),
    ...(endsExactly && isLast ? [`atrim=end_sample=${preRollFrames * frameSamples + samples}`] : []),
  ].join(',')
  const limited: NewPiece['limited'][] = []
  for (const [index, job] of jobs.entries()) {
    const rendered = await job.render()
    limited.push(rendered.limited)
    await writeFile(path(index, 'f32'), new Uint8Array(rendered.samples.buffer, rendered.samples.byteOffset, rendered.samples.byteLength))
  }
  await run([
    ...each(index => ['-f', 'f32le', '-ar', String(jobs[index]!.trackRate), '-ac', '1', '-i', path(index, 'f32')]),
    ...each(index => ['-map', `${index}:a`, '-af', filters(jobs[index]!), ...encoding, path(index, 'encoded')]),
  ], jobs.map((_, index) => path(index, 'encoded')))
  await run([
    ...each(index => [...decoding, '-i', path(index, 'encoded')]),
    ...each(index => ['-map', `${index}:a`, '-f', 's16le', path(index, 's16')]),
  ], jobs.map((_, index) => path(index, 's16')))
  const pieces: NewPiece[] = []
  for (const [index, { frames, samples: count }] of jobs.entries()) {
    const bytes = cut(await readFile(path(index, 'encoded')), preRollFrames, frames)
    const decoded = await readFile(path(index, 's16'))
    const samples = new Int16Array(decoded.buffer, decoded.byteOffset, decoded.length >> 1)
    const first = preRollFrames * frameSamples + decodedDelay
    const measures = Array.from({ length: channels }, (_, channel): Measure => measure(channelOf(samples, channel, channels), sampleRate, first, first + count))
    pieces.push({ bytes, frames, limited: limited[index]!, measure: combined(measures) })
  }
  return pieces
}

/** What the encoder has written says whether it goes on. */
function run(parameters: readonly string[], outputs: readonly string[]): Promise<void> {
  return runFfmpeg(['-y', ...parameters], null, () => outputs.reduce((bytes, path) => bytes + (statSync(path, { throwIfNoEntry: false })?.size ?? 0), 0))
}
