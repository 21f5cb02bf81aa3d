import { crc32 } from 'node:zlib'
import type { Measure } from '#core/mastering/measure'
import { pieceFile } from '#takes/piece-file'
import type { FileStorage } from '#takes/storage'
import type { Scratch } from './scratch'

/** A piece of a track as it is encoded, and what was measured of it when it was decoded again. */
export interface EncodedPiece {
  /** Where its frames lie in the file that keeps it, bytes. */
  readonly offset: number
  readonly length: number
  readonly frames: number
  /** CRC-32 of its frames. */
  readonly checksum: number
  readonly measure: Measure
  /** How often peaks had to be held, and the most that was taken away, dB. */
  readonly limited: { readonly count: number, readonly mostDb: number }
}

/** A piece that is not kept yet. */
export interface NewPiece extends Omit<EncodedPiece, 'offset' | 'length' | 'checksum'> {
  readonly bytes: Buffer
}

/** Before the description of a kept piece: its length in bytes. */
const prefixBytes = 4

/** What is read first of a piece: longer descriptions take another reading. */
const firstBytes = 32 * 1024

/** What the description says in words; behind it lie the steps and the levels of the measure, then the frames. */
interface Description extends Omit<EncodedPiece, 'measure' | 'offset'> {
  readonly steps: number
  readonly levels: number
  readonly measure: Omit<Measure, 'steps' | 'levels'>
}

/** Encoded pieces in a folder of a storage, by the hash of all that decides them. */
export class PieceStore {
  readonly #storage: FileStorage

  constructor(storage: FileStorage) {
    this.#storage = storage
  }

  /** What is kept of a piece; null when it is not there, or not whole. */
  async find(key: string): Promise<EncodedPiece | null> {
    const name = pieceFile(key)
    const first = await this.#storage.read(name, 0, firstBytes)
    if (first.length < prefixBytes) return null
    const textEnd = prefixBytes + first.readUInt32LE(0)
    if (textEnd > first.length) return null
    const { steps, levels, measure, ...piece } = JSON.parse(first.toString('utf8', prefixBytes, textEnd)) as Description
    const offset = textEnd + steps * Float32Array.BYTES_PER_ELEMENT + levels
    const head = offset <= first.length ? first.subarray(textEnd, offset) : await this.#storage.read(name, textEnd, offset - textEnd)
    if (head.length < offset - textEnd) return null
    const stepBytes = head.subarray(0, steps * Float32Array.BYTES_PER_ELEMENT)
    return { ...piece, offset, measure: { ...measure, steps: new Float32Array(Uint8Array.from(stepBytes).buffer), levels: Uint8Array.from(head.subarray(stepBytes.length)) } }
  }

  /** The frames of a piece, in the scratch if there is one; null when they are no longer there, or damaged. */
  async frames(key: string, { offset, length, checksum }: EncodedPiece, scratch?: Scratch): Promise<Buffer | null> {
    const bytes = await this.#storage.read(pieceFile(key), offset, length, scratch?.bytes('frames', length))
    return bytes.length === length && crc32(bytes) === checksum ? bytes : null
  }

  async put(key: string, { bytes, measure: { steps, levels, ...measure }, ...piece }: NewPiece): Promise<EncodedPiece> {
    const kept = { ...piece, length: bytes.length, checksum: crc32(bytes) }
    const text = Buffer.from(JSON.stringify({ ...kept, steps: steps.length, levels: levels.length, measure } satisfies Description))
    const prefix = Buffer.alloc(prefixBytes)
    prefix.writeUInt32LE(text.length)
    const head = Buffer.concat([prefix, text, Buffer.from(steps.buffer, steps.byteOffset, steps.byteLength), levels])
    await this.#storage.put(pieceFile(key), Buffer.concat([head, bytes]))
    return { ...kept, offset: head.length, measure: { ...measure, steps, levels } }
  }

  /** A damaged piece is removed, so that it is made again. */
  remove(key: string): Promise<void> {
    return this.#storage.remove(pieceFile(key))
  }
}
