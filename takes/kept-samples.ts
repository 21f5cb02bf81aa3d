import { LRUCache } from 'lru-cache'

/** Bytes of samples that are kept: 64 MB. */
const mostBytes = 64 * 1024 * 1024

/** Keeps samples that were made, by names that decide them, while there is room. */
export class KeptSamples {
  readonly #kept = new LRUCache<string, Int16Array>({ maxSize: mostBytes, sizeCalculation: samples => Math.max(1, samples.byteLength) })

  get(name: string): Int16Array | undefined {
    return this.#kept.get(name)
  }

  put(name: string, samples: Int16Array): Int16Array {
    this.#kept.set(name, samples)
    return samples
  }
}
