/** Packets one behind the other, each with its length before it. */
export function packed(packets: readonly Buffer[]): Buffer {
  return Buffer.concat(packets.flatMap(packet => {
    const length = Buffer.alloc(lengthBytes)
    length.writeUInt32LE(packet.length)
    return [length, packet]
  }))
}

const lengthBytes = 4

/** The packets in what `packed` gave. */
export function* unpacked(bytes: Buffer): Generator<Buffer> {
  for (let at = 0; at < bytes.length;) {
    const begin = at + lengthBytes
    at = begin + bytes.readUInt32LE(at)
    yield bytes.subarray(begin, at)
  }
}
