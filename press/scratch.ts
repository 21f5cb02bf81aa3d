/** So much more is had than is asked for: the next piece is hardly ever much longer. */
const withReserve = 1.25

/** Memory that is used again and again: what is as large as a piece of audio costs more to be had and given back than to be worked on. */
export class Scratch {
  readonly #kept = new Map<string, ArrayBuffer>()

  /** Room for so many samples; what is in it is left from before. It is good until a use asks for its own again. */
  floats(use: string, count: number): Float32Array {
    return new Float32Array(this.#room(use, count * Float32Array.BYTES_PER_ELEMENT), 0, count)
  }

  samples(use: string, count: number): Int16Array {
    return new Int16Array(this.#room(use, count * Int16Array.BYTES_PER_ELEMENT), 0, count)
  }

  bytes(use: string, count: number): Buffer {
    return Buffer.from(this.#room(use, count), 0, count)
  }

  #room(use: string, bytes: number): ArrayBuffer {
    let room = this.#kept.get(use)
    if (room === undefined || room.byteLength < bytes) {
      room = new ArrayBuffer(Math.ceil(bytes * withReserve))
      this.#kept.set(use, room)
    }
    return room
  }
}
