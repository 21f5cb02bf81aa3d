import { diff } from 'fast-myers-diff'
import { addTo, count } from '../tally'

/** A passage of the script, with the text that it came in with. */
export interface OldPassage {
  readonly id: string
  readonly part: string
  /** As it came in; null for one that did not. */
  readonly imported: string | null
  /** As it is now. */
  readonly written: string
}

/** A passage of the new version. */
export interface NewPassage {
  readonly text: string
}

export type ComparedState = 'same' | 'moved' | 'edited' | 'new' | 'gone'

/** One row of the comparison: what came in before, what comes in now. */
export interface Compared {
  readonly state: ComparedState
  /** Index in the old passages; null for a new one. */
  readonly before: number | null
  /** Index in the new passages; null for one that is gone. */
  readonly after: number | null
  /** The script's own text differs from what came in, and the new version does, too. */
  readonly conflict: boolean
}

/** Words two texts must share to be versions of one passage, as a share of all (Dice). */
const leastLikeness = 0.5
/** Candidates that are looked at for one passage. */
const mostCandidates = 40

/**
 * Compares the manuscript that a script came from with a new version: what is equal in order, then what is equal elsewhere,
 * then what shares most words. Rows come in the order of the new version, what is gone after what stood before it. A
 * passage of the script that did not come in with the manuscript is no part of it.
 */
export function compareVersions(before: readonly OldPassage[], after: readonly NewPassage[]): Compared[] {
  const old = before.map(({ imported }, index) => ({ index, text: normal(imported ?? '') })).filter(({ index }) => before[index]!.imported !== null)
  const fresh = after.map(({ text }) => normal(text))
  const matches = new Map<number, { before: number, state: 'same' | 'moved' | 'edited' }>()
  const free = new Set(old.map(({ index }) => index))
  const match = (newIndex: number, oldIndex: number, state: 'same' | 'moved' | 'edited'): void => {
    matches.set(newIndex, { before: oldIndex, state })
    free.delete(oldIndex)
  }
  for (const [oldAt, newAt] of inOrder(old.map(({ text }) => text), fresh)) match(newAt, old[oldAt]!.index, 'same')
  matchMoved(old, fresh, free, matches, match)
  matchLikely(before, fresh, free, matches, match)
  return rows(before, after, matches)
}

function normal(text: string): string {
  return text.replace(/\s+/gu, ' ').trim()
}

/** Pairs of equal texts in order: the longest common subsequence, found over interned numbers. */
function inOrder(old: readonly string[], fresh: readonly string[]): [number, number][] {
  const numbers = new Map<string, number>()
  const intern = (text: string): number => {
    const known = numbers.get(text)
    if (known !== undefined) return known
    numbers.set(text, numbers.size)
    return numbers.size - 1
  }
  const [a, b] = [old.map(intern), fresh.map(intern)]
  const pairs: [number, number][] = []
  let [atA, atB] = [0, 0]
  const equal = (until: number): void => {
    for (; atA < until; atA += 1, atB += 1) pairs.push([atA, atB])
  }
  for (const [startA, endA, , endB] of diff(a, b)) {
    equal(startA)
    atA = endA
    atB = endB
  }
  equal(a.length)
  return pairs
}

type Match = (newIndex: number, oldIndex: number, state: 'same' | 'moved' | 'edited') => void
type Matches = ReadonlyMap<number, { before: number }>

function matchMoved(old: readonly { index: number, text: string }[], fresh: readonly string[], free: ReadonlySet<number>, matches: Matches, match: Match): void {
  const places = new Map<string, number[]>()
  for (const { index, text } of old) if (free.has(index)) addTo(places, text, index)
  fresh.forEach((text, index) => {
    const place = matches.has(index) ? undefined : places.get(text)?.shift()
    if (place !== undefined) match(index, place, 'moved')
  })
}

/** What shares most words, found over an index of the words; the more alike first. */
function matchLikely(before: readonly OldPassage[], fresh: readonly string[], free: ReadonlySet<number>, matches: Matches, match: Match): void {
  const bags = new Map([...free].map(index => [index, wordsOf(before[index]!.imported!)]))
  const places = new Map<string, number[]>()
  for (const [index, bag] of bags) for (const word of bag) addTo(places, word, index)
  const likely: { newIndex: number, oldIndex: number, likeness: number, distance: number }[] = []
  fresh.forEach((text, newIndex) => {
    if (matches.has(newIndex)) return
    const words = wordsOf(text)
    const shared = new Map<number, number>()
    for (const word of words) for (const index of places.get(word) ?? []) count(shared, index)
    for (const [oldIndex, both] of [...shared].sort((a, b) => b[1] - a[1]).slice(0, mostCandidates)) {
      const likeness = 2 * both / (words.size + bags.get(oldIndex)!.size)
      if (likeness >= leastLikeness) likely.push({ newIndex, oldIndex, likeness, distance: Math.abs(newIndex - oldIndex) })
    }
  })
  const taken = new Set<number>()
  for (const { newIndex, oldIndex } of likely.sort((a, b) => b.likeness - a.likeness || a.distance - b.distance)) {
    if (taken.has(newIndex) || !free.has(oldIndex)) continue
    taken.add(newIndex)
    match(newIndex, oldIndex, 'edited')
  }
}

function wordsOf(text: string): Set<string> {
  return new Set(text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [])
}

function rows(before: readonly OldPassage[], after: readonly NewPassage[], matches: ReadonlyMap<number, { before: number, state: 'same' | 'moved' | 'edited' }>): Compared[] {
  const newOf = new Map([...matches].map(([newIndex, match]) => [match.before, newIndex]))
  const goneAfter = new Map<number | null, number[]>()
  let last: number | null = null
  before.forEach(({ imported }, index) => {
    if (imported === null) return
    const found = newOf.get(index)
    if (found !== undefined) last = found
    else addTo(goneAfter, last, index)
  })
  const gone = (place: number | null): Compared[] => (goneAfter.get(place) ?? []).map(index => {
    const { imported, written } = before[index]!
    return { state: 'gone', before: index, after: null, conflict: normal(written) !== normal(imported!) }
  })
  return [...gone(null), ...after.flatMap(({ text }, index): Compared[] => {
    const found = matches.get(index)
    if (found === undefined) return [{ state: 'new', before: null, after: index, conflict: false }, ...gone(index)]
    const { imported, written } = before[found.before]!
    const conflict = found.state === 'edited' && normal(written) !== normal(imported!) && normal(written) !== normal(text)
    return [{ state: found.state, before: found.before, after: index, conflict }, ...gone(index)]
  })]
}
