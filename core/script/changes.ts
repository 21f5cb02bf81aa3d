import type { StyleFields } from '../style/house-style'
import type { WordEntry } from '../words/wordbook'
import type { Anchor } from './anchor'
import { canonicalContent, type Content } from './content'
import type { Decision } from './decisions'
import type { PartAbout, PartKind, PassageKind } from './script'

/** What can change about a passage: where it stands, what it is, what it says. */
export interface PassageFields {
  readonly partId: string
  readonly rank: string
  readonly kind: PassageKind
  readonly content: Content
  /** As it came in; null for one that did not. */
  readonly importedText: string | null
  /** Of a heading, also where it became a title. */
  readonly level: number | null
  /** BCP 47, where it differs from the edition's. */
  readonly language: string | null
  /** Id of the role that speaks it; null for the narrator. */
  readonly role: string | null
  /** The manuscript's block that it came from. */
  readonly block: number | null
}

export interface PartFields {
  readonly rank: string
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
  readonly about: PartAbout | null
}

export interface WordFields {
  readonly wordbookId: string
  readonly entry: Omit<WordEntry, 'id'>
}

export interface DecisionFields {
  readonly editionId: string
  readonly decision: Decision
}

export interface ChoiceFields {
  readonly editionId: string
  readonly at: Anchor
  /** Id of the take. */
  readonly take: string
}

export interface EditionFields {
  readonly houseStyleId: string
}

/**
 * A change of one thing, with the fields that change and no others. `before` is null for one that is made,
 * `after` for one that is taken away.
 */
interface ChangeOf<Kind extends string, Fields> {
  readonly of: Kind
  readonly id: string
  readonly before: Partial<Fields> | null
  readonly after: Partial<Fields> | null
}

export type PartChange = ChangeOf<'part', PartFields>
export type PassageChange = ChangeOf<'passage', PassageFields>
/** Of the house style's rests: it is not of the script, but is undone with it. */
export type StyleChange = ChangeOf<'style', StyleFields>
/** Of an entry of a wordbook, likewise. */
export type WordChange = ChangeOf<'word', WordFields>
/** Of something that was found, likewise. */
export type DecisionChange = ChangeOf<'decision', DecisionFields>
/** Of a choice of a take. */
export type ChoiceChange = ChangeOf<'choice', ChoiceFields>
/** Of what an edition has: its house style. */
export type EditionChange = ChangeOf<'edition', EditionFields>
export type ScriptChange = PartChange | PassageChange | StyleChange | WordChange | DecisionChange | ChoiceChange | EditionChange

/** The changes that put everything back, in the order in which they must be made. */
export function inverse(changes: readonly ScriptChange[]): ScriptChange[] {
  return changes.toReversed().map(change => ({ ...change, before: change.after, after: change.before }) as ScriptChange)
}

/** Whether a thing still has the values that a change starts from; null is a thing that is not there. */
export function stands(now: Partial<PartFields> | Partial<PassageFields> | Partial<StyleFields> | Partial<WordFields> | Partial<DecisionFields> | Partial<ChoiceFields> | Partial<EditionFields> | null, before: ScriptChange['before']): boolean {
  if (now === null || before === null) return now === before
  return Object.entries(before).every(([field, value]) => same((now as Readonly<Record<string, unknown>>)[field] ?? null, value ?? null))
}

function same(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b
  return 'runs' in a ? written(a as Content) === written(b as Content) : sorted(a) === sorted(b)
}

function sorted(value: object): string {
  return JSON.stringify(value, (_, inner: unknown) => typeof inner === 'object' && inner !== null && !Array.isArray(inner)
    ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => a < b ? -1 : 1))
    : inner)
}

/** Keys in one order: a database may change it. */
function written(content: Content): string {
  const { runs, directions } = canonicalContent(content)
  return JSON.stringify([runs.map(run => [run.text, run.on, run.point ?? null]), directions.map(sorted)])
}
