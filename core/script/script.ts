import type { Content } from './content'

/** What a passage is in its part; the house style gives each kind its rests. */
export const passageKinds = ['title', 'heading', 'paragraph', 'listItem', 'quotation', 'tableRow'] as const
export type PassageKind = (typeof passageKinds)[number]

/** How a part is shown; one production has parts of one kind, apart from front and back matter. */
export type PartKind = 'chapter'

/** One block of a part. Ids are UUIDs in the database and ordinal paths on the command line. */
export interface Passage {
  readonly id: string
  readonly kind: PassageKind
  readonly content: Content
}

/** What becomes narration on its own. A part that is not `included` makes no audio and no file. */
export interface Part {
  readonly id: string
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
  readonly passages: readonly Passage[]
}

export interface Script {
  readonly title: string
  readonly author: string | null
  /** BCP 47 */
  readonly language: string
  readonly parts: readonly Part[]
}
