/** Puts a value into the group of its key. */
export function addTo<K, V>(groups: Map<K, V[]>, key: K, value: V): void {
  const group = groups.get(key)
  if (group === undefined) groups.set(key, [value])
  else group.push(value)
}

/** Counts a key, as often as given. */
export function count<K>(counts: Map<K, number>, key: K, times = 1): void {
  counts.set(key, (counts.get(key) ?? 0) + times)
}

/** The key that counts most, with its count; of several the first. Undefined when nothing was counted. */
export function most<K>(counts: ReadonlyMap<K, number>): readonly [key: K, times: number] | undefined {
  let found: readonly [K, number] | undefined
  for (const entry of counts) if (found === undefined || entry[1] > found[1]) found = entry
  return found
}
