import type { WorkCover } from '#core/delivery/details'
import type { FileChapter } from '#core/delivery/manifest'
import type { FileTags } from '#core/runsheet/run-sheet'
import type { Scratch } from '../scratch'

/** A cover with the bytes of its picture. */
export interface CoverPicture extends Pick<WorkCover, 'mediaType' | 'width' | 'height'> {
  readonly bytes: Buffer
}

/** What a file is put together from. */
export interface FileContents {
  /** The kept bytes of its pieces in order; with a scratch, each is good only until the next is asked for. */
  readonly pieces: (scratch?: Scratch) => AsyncIterable<Buffer>
  readonly frames: number
  /** Of all pieces. */
  readonly bytes: number
  /** Samples of the file when it is decoded. */
  readonly sampleCount: number
  readonly tags: FileTags
  readonly chapters: readonly FileChapter[]
  readonly cover: CoverPicture | null
}

/** What ffmpeg is told to encode, and to decode what it has encoded. */
export interface Ffmpeg {
  readonly encoding: readonly string[]
  readonly decoding: readonly string[]
}

/** A coder that works in threads of this process, a piece in each. Its steps reject with a problem when a library is missing or fails; what they give may lie in the scratch. */
export interface Threads {
  /** Samples (full scale is 1) at the rate of the file as a stream. */
  readonly encode: (samples: Float32Array, scratch: Scratch) => Promise<Buffer>
  /** The samples of a stream, those of its channels in turn. */
  readonly decode: (stream: Buffer, scratch: Scratch) => Promise<Int16Array>
}

/** How a kind of file is encoded in pieces, and put together from them. */
export interface FileFormat {
  /** Samples of a frame, at the rate of the file. */
  readonly frameSamples: number
  /**
   * Frames that are encoded before a piece and thrown away, so that the encoder is in the state that it would have in the middle of a track. They are measured: the fewest with which a second
   * around a join is as near to what was encoded as in one go, within 0.5 dB.
   */
  readonly preRollFrames: number
  /** Frames after it, which the encoder looks ahead to. */
  readonly postRollFrames: number
  /** Samples that the frames of a file hold before the first one that was encoded. */
  readonly delay: number
  /** Of these, how many come out when a piece is decoded by itself. */
  readonly decodedDelay: number
  /** Whether the last frame of a file is as short as what is left for it. */
  readonly endsExactly: boolean
  /** What the encoder takes away from the level, dB. */
  readonly lossDb: number
  readonly coder: Ffmpeg | Threads
  /** What is kept of a stream for a piece: so many frames from one on. Throws a problem where the stream is not what it should be. */
  readonly cut: (stream: Buffer, firstFrame: number, frames: number) => Buffer
  /** Writes a file. Rejects when that fails, with a problem where it can be said why. */
  readonly write: (contents: FileContents, path: string) => Promise<void>
}
