/** Numbers in 0…1 from a seed, the same in every run (a linear congruential generator; constants from memory). */
export function randomOf(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 4294967296
  }
}

/** The bytes of a file with a few of them changed, cut out, doubled, or the end cut off. */
export function mutated(bytes: Buffer, random: () => number): Buffer {
  let result = Buffer.from(bytes)
  for (let times = 1 + Math.floor(random() * 8); times > 0 && result.length > 4; times -= 1) {
    const at = Math.floor(random() * result.length)
    const length = 1 + Math.floor(random() * Math.min(64, result.length - at))
    const kind = random()
    if (kind < 0.5) result[at] = Math.floor(random() * 256)
    else if (kind < 0.7) result = Buffer.concat([result.subarray(0, at), result.subarray(at + length)])
    else if (kind < 0.9) result = Buffer.concat([result.subarray(0, at + length), result.subarray(at)])
    else if (kind < 0.95) result = result.subarray(0, at)
    else result.fill(0, at, at + length)
  }
  return result
}
