import { fail } from '#core/problem'
import { crcOf } from './crc'

/** Head of a page before the lengths of its packets (RFC 3533, 6). */
const headBytes = 27
const mostSegments = 255
const segmentBytes = 255
const flags = { continued: 1, begins: 2, ends: 4 } as const

/** The packets of a stream. Throws a problem where something is not a page. */
export function oggPackets(stream: Buffer): Buffer[] {
  const packets: Buffer[] = []
  let open: Buffer[] = []
  let at = 0
  while (at < stream.length) {
    const segments = stream[at + headBytes - 1]
    if (segments === undefined || stream.toString('latin1', at, at + 4) !== 'OggS') fail('encoder-failed', 'The encoder gave something that is no Ogg. Check the free space and try again.')
    let place = at + headBytes + segments
    for (let i = 0; i < segments; i += 1) {
      const length = stream[at + headBytes + i]!
      open.push(stream.subarray(place, place + length))
      place += length
      if (length === segmentBytes) continue
      packets.push(open.length === 1 ? open[0]! : Buffer.concat(open))
      open = []
    }
    at = place
  }
  return packets
}

/** Writes packets into pages, of one stream. */
export class OggWriter {
  readonly #serial: number
  #page = 0
  #packets: Buffer[] = []
  #segments = 0

  constructor(serial: number) {
    this.#serial = serial
  }

  /** Packets that stand in pages of their own, such as heads and tags: none of their samples is heard. */
  * alone(packet: Buffer): Generator<Buffer> {
    const segments = lacing(packet)
    for (let from = 0; from < segments.length; from += mostSegments) {
      const inPage = segments.slice(from, from + mostSegments)
      const begin = from * segmentBytes
      const bytes = packet.subarray(begin, begin + inPage.reduce((sum, length) => sum + length, 0))
      // No packet ends in a page that is full of one (RFC 3533, 6).
      const isWhole = from + mostSegments >= segments.length
      yield this.#pageOf(inPage, [bytes], isWhole ? 0n : -1n, (from > 0 ? flags.continued : 0) | (this.#page === 0 ? flags.begins : 0))
    }
  }

  /** A packet, after which so many samples have been; gives the page before it when that is full. */
  * add(packet: Buffer, before: bigint): Generator<Buffer> {
    const segments = Math.floor(packet.length / segmentBytes) + 1
    if (this.#packets.length === packetsInPage || this.#segments + segments > mostSegments) yield this.#flush(before, 0)
    this.#packets.push(packet)
    this.#segments += segments
  }

  /** The last page; `samples` with it in all. */
  end(samples: bigint): Buffer {
    return this.#flush(samples, flags.ends)
  }

  #flush(samples: bigint, flag: number): Buffer {
    const page = this.#pageOf(this.#packets.flatMap(lacing), this.#packets, samples, flag)
    this.#packets = []
    this.#segments = 0
    return page
  }

  #pageOf(segments: readonly number[], bytes: readonly Buffer[], samples: bigint, flag: number): Buffer {
    const head = Buffer.alloc(headBytes + segments.length)
    head.write('OggS', 0, 'latin1')
    head[5] = flag
    head.writeBigInt64LE(samples, 6)
    head.writeUInt32LE(this.#serial, 14)
    head.writeUInt32LE(this.#page, 18)
    head[26] = segments.length
    head.set(segments, headBytes)
    const page = Buffer.concat([head, ...bytes])
    page.writeUInt32LE(checksum(page), 22)
    this.#page += 1
    return page
  }
}

/** A second of packets of 20 ms. */
const packetsInPage = 50

/** The lengths by which a packet is told in a page. */
function lacing(packet: Buffer): number[] {
  return [...Array<number>(Math.floor(packet.length / segmentBytes)).fill(segmentBytes), packet.length % segmentBytes]
}

/** Of a page whose own place for it is empty (RFC 3533, 6). */
const checksum = crcOf(32, 0x04c1_1db7)
