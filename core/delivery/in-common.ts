/**
 * Pairs of places at which two lists of texts have the same one, in order. Texts that each list has once are paired as far as their order is the same, and from there on
 * neighbours that are equal. In lists that have little in common this is much faster than finding the shortest difference, and in others nearly the same.
 */
export function inCommon(before: readonly string[], after: readonly string[]): [number, number][] {
  const [placesBefore, placesAfter] = [placesOnce(before), placesOnce(after)]
  const shared = [...placesAfter].flatMap(([text, place]): [number, number][] => placesBefore.has(text) ? [[placesBefore.get(text)!, place]] : [])
  const pairs: [number, number][] = []
  let [old, now] = [0, 0]
  for (const [oldEnd, nowEnd] of [...longestRising(shared), [before.length, after.length] as const]) {
    for (; old < oldEnd && now < nowEnd && before[old] === after[now]; old += 1, now += 1) pairs.push([old, now])
    let length = 0
    while (oldEnd - length > old && nowEnd - length > now && before[oldEnd - length - 1] === after[nowEnd - length - 1]) length += 1
    for (; length > 0; length -= 1) pairs.push([oldEnd - length, nowEnd - length])
    old = oldEnd
    now = nowEnd
  }
  return pairs
}

/** Places of the texts that a list has once, in order. */
function placesOnce(texts: readonly string[]): Map<string, number> {
  const places = new Map<string, number>()
  const several = new Set<string>()
  texts.forEach((text, place) => {
    if (places.has(text)) several.add(text)
    else places.set(text, place)
  })
  for (const text of several) places.delete(text)
  return places
}

interface Step {
  readonly pair: readonly [number, number]
  readonly before: Step | null
}

/** Of pairs, the most whose first numbers rise (patience sorting). */
function longestRising(pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const tops: Step[] = []
  for (const pair of pairs) {
    let [low, high] = [0, tops.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (tops[middle]!.pair[0] < pair[0]) low = middle + 1
      else high = middle
    }
    tops[low] = { pair, before: tops[low - 1] ?? null }
  }
  const rising: (readonly [number, number])[] = []
  for (let step = tops.at(-1) ?? null; step !== null; step = step.before) rising.push(step.pair)
  return rising.reverse()
}
