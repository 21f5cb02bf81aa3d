import koffi from 'koffi'

/** A text that ends with NUL in memory of its own: that of a buffer may be freed while the library still reads it. The caller frees it. */
export function unmovedText(text: string): unknown {
  const bytes = Buffer.from(`${text}\0`)
  const memory: unknown = koffi.alloc('uint8_t', bytes.length)
  koffi.encode(memory, 'uint8_t', bytes, bytes.length)
  return memory
}
