import { canonicalContent, type Content } from './content'
import type { PartKind, PassageKind } from './script'

/** What can change about a passage: where it stands, what it is, what it says. */
export interface PassageFields {
  readonly partId: string
  readonly rank: string
  readonly kind: PassageKind
  readonly content: Content
}

export interface PartFields {
  readonly rank: string
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
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
export type ScriptChange = PartChange | PassageChange

/** The changes that put everything back, in the order in which they must be made. */
export function inverse(changes: readonly ScriptChange[]): ScriptChange[] {
  return changes.toReversed().map(change => ({ ...change, before: change.after, after: change.before }) as ScriptChange)
}

/** Whether a thing still has the values that a change starts from; null is a thing that is not there. */
export function stands(now: Partial<PartFields> | Partial<PassageFields> | null, before: ScriptChange['before']): boolean {
  if (now === null || before === null) return now === before
  return Object.entries(before).every(([field, value]) => same((now as Readonly<Record<string, unknown>>)[field], value))
}

function same(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || typeof b !== 'object') return a === b
  return written(a as Content) === written(b as Content)
}

/** Keys in one order: a database may change it. */
function written(content: Content): string {
  const { runs, directions } = canonicalContent(content)
  return JSON.stringify([runs.map(run => [run.text, run.on]), directions.map(direction => [direction.id, direction.kind])])
}
