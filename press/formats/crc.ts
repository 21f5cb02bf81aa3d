/** The cyclic redundancy check of so many bits (at most 32) with a polynomial, from the highest bit on, beginning with nothing. */
export function crcOf(bits: number, polynomial: number): (bytes: Uint8Array) => number {
  const mask = bits === 32 ? -1 : 2 ** bits - 1
  const top = bits - 8
  const table = Int32Array.from({ length: 256 }, (_, index) => {
    let crc = index << top
    for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> bits - 1 & 1) === 0 ? crc << 1 : crc << 1 ^ polynomial
    return crc & mask
  })
  return bytes => {
    let crc = 0
    for (const byte of bytes) crc = crc << 8 & mask ^ table[(crc >>> top ^ byte) & 0xff]!
    return crc >>> 0
  }
}
