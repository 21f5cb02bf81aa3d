import type { CastScore, CastUtterance } from '../score/request'
import { addTo } from '../tally'
import type { PlacedChoice } from './choice'
import type { KnownTake } from './take'

/** The take that is heard for an utterance, or for several of one passage in a row. */
export interface Reference {
  /** The first of its utterances in the score, and how many there are. */
  readonly from: number
  readonly count: number
  /** Id of the take. */
  readonly take: string
  /** Null while it is not made. */
  readonly known: KnownTake | null
  /** The engine is asked for it as the score says: rests and levels within it have their places. What else is heard nobody here can make. */
  readonly isOwn: boolean
  /** What is written is no longer what it says. */
  readonly isStale: boolean
}

/** For whoever only asks which takes are heard. */
export const noTakes: ReadonlyMap<string, KnownTake> = new Map()

/**
 * The one decision of which takes are heard: in the order of a score, each utterance in one of them. `takes`: what exists, by id. A choice counts for the
 * utterances that lie within its place; the first of several that would count does.
 */
export function choose({ utterances }: CastScore, takes: ReadonlyMap<string, KnownTake>, choices: readonly PlacedChoice[] = []): Reference[] {
  const byPassage = new Map<string, PlacedChoice[]>()
  for (const choice of choices) addTo(byPassage, choice.passageId, choice)
  const references: Reference[] = []
  for (let from = 0; from < utterances.length;) {
    const utterance = utterances[from]!
    const choice = byPassage.get(utterance.passageId)?.find(each => countsFor(each, utterance))
    const take = choice?.take ?? utterance.key
    const isOwn = isOf(take, utterance)
    let count = 1
    if (choice !== undefined && !isOwn) while (from + count < utterances.length && countsFor(choice, utterances[from + count]!)) count += 1
    references.push({ from, count, take, known: takes.get(take) ?? null, isOwn, isStale: choice?.isStale ?? false })
    from += count
  }
  return references
}

/** Another take of an engine counts only as long as the engine is asked the same. */
function countsFor({ passageId, start, end, take, origin }: PlacedChoice, utterance: CastUtterance): boolean {
  return utterance.passageId === passageId && utterance.start >= start && utterance.end <= end
    && (origin !== 'engine' || isOf(take, utterance))
}

function isOf(take: string, { key }: CastUtterance): boolean {
  return take === key || take.startsWith(`${key}.`)
}

/** A reference without what is known of its take: what it is does not depend on what exists. */
export type OpenReference = Omit<Reference, 'known'>

/** References with what is known of their takes. */
export function withKnown(references: readonly OpenReference[], takes: ReadonlyMap<string, KnownTake>): Reference[] {
  return references.map(reference => ({ ...reference, known: takes.get(reference.take) ?? null }))
}

/** The ids of all takes that are heard. */
export function takesOf(references: readonly OpenReference[]): string[] {
  return [...new Set(references.map(({ take }) => take))]
}
