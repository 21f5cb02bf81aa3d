import type { Content } from './content'

/** What a passage is in its part; the house style gives each kind its rests. A scene break is a rest: what stands for it (`sceneBreakText`) is not spoken. */
export const passageKinds = ['title', 'heading', 'paragraph', 'listItem', 'quotation', 'tableRow', 'note', 'sceneBreak'] as const
export type PassageKind = (typeof passageKinds)[number]

/** How a scene break is written. */
export const sceneBreakText = '* * *'

/** How a part is shown. A hint is a short text of the slide before it, with a file of its own. */
export const partKinds = ['chapter', 'slide', 'hint', 'article', 'frontMatter', 'backMatter'] as const
export type PartKind = (typeof partKinds)[number]

/** What is known of a part besides its text. */
export interface PartAbout {
  readonly author?: string
  readonly date?: string
  /** Address or file that it comes from. */
  readonly source?: string
  /** Number of its slide in the deck, from 1. */
  readonly slide?: number
  /** Of a slide that the deck does not show. */
  readonly hidden?: boolean
  /** What is seen on the slide. */
  readonly onScreen?: readonly string[]
  /** Label of the earlier article that has the same words. */
  readonly duplicateOf?: string
}

/** One block of a part. Ids are UUIDs in the database and ordinal paths on the command line. */
export interface Passage {
  readonly id: string
  readonly kind: PassageKind
  /** Of a heading or title in its document: 1 is the highest. */
  readonly level?: number
  readonly content: Content
  /** BCP 47, where it differs from the script's. */
  readonly language?: string
  /** The role that speaks it, unless the narrator does: its id, or its name in a script that is no production's. */
  readonly role?: string
  /** It is not in the script: it announces what is. */
  readonly announcement?: AnnouncementMark
}

/** What an announcement is to the files that are made. */
export interface AnnouncementMark {
  readonly of: 'opening' | 'part' | 'closing' | 'sound'
  readonly isOwnFile: boolean
  /** Of a file that holds nothing else. */
  readonly title: string
}

/** The roles that speak in a passage, besides the narrator. */
export function rolesOfPassage({ role, content }: { readonly role?: string | null | undefined, readonly content: Content }): string[] {
  return [...new Set([...(typeof role === 'string' ? [role] : []), ...content.directions.flatMap(direction => direction.kind === 'role' ? [direction.role] : [])])]
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
