import { lostPlaceOf, placeOf, type Anchor } from '../script/anchor'
import { writtenText } from '../script/content'
import type { Passage } from '../script/script'
import { addTo } from '../tally'
import { textHash, type TakeOrigin } from './take'

/** A producer's choice of the take that is heard at a place, in place of the one that an engine makes. */
export interface Choice {
  readonly at: Anchor
  /** Id of the take. */
  readonly take: string
  /** Of the take; null for one that is no longer there. */
  readonly origin: TakeOrigin | null
  readonly textHash: string | null
}

/** A choice in the script as it is now. */
export interface PlacedChoice extends Pick<Choice, 'take' | 'origin'> {
  readonly passageId: string
  /** Span in the written text. */
  readonly start: number
  readonly end: number
  /** The text under it is no longer what the take says. */
  readonly isStale: boolean
}

/** The choices of some passages where they are now. One whose place is gone is loose, and not among them. */
export function placeChoices(choices: readonly Choice[], passages: readonly Passage[]): PlacedChoice[] {
  if (choices.length === 0) return []
  const byPassage = new Map<string, Choice[]>()
  for (const choice of choices) addTo(byPassage, choice.at.passageId, choice)
  return passages.flatMap(passage => {
    const own = byPassage.get(passage.id)
    if (own === undefined) return []
    const text = writtenText(passage.content)
    return own.flatMap(({ at, take, origin, textHash: said }): PlacedChoice[] => {
      const place = placeOf(at, text) ?? lostPlaceOf(at, text)
      if (place === null) return []
      const [start, end] = place
      return [{ passageId: passage.id, start, end, take, origin, isStale: said !== null && said !== textHash(text.slice(start, end)) }]
    })
  })
}
