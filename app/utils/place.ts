/** Where somebody was in a script. */
export interface Place {
  readonly partId: string
  /** Key of the sentence that was chosen, and its index in the part for when it has changed. */
  readonly sentence: string | null
  readonly index: number
  /** How far the page was scrolled, px. */
  readonly scroll: number
}

const keyOf = (editionId: string): string => `place ${editionId}`

/** The place where this browser left a production; null without one. */
export function placeIn(editionId: string): Place | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(editionId)) ?? 'null') as Place | null
  } catch {
    return null
  }
}

export function keepPlace(editionId: string, place: Place): void {
  try {
    localStorage.setItem(keyOf(editionId), JSON.stringify(place))
  } catch {
    // A browser without room keeps no place; nothing else depends on it.
  }
}
