import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { fail } from '#core/problem'
import type { PartChange, PartFields, PassageChange, ScriptChange } from '#core/script/changes'
import { canonicalContent, type Content } from '#core/script/content'
import type { EditKind } from '#shared/api'
import type { Operation } from '#shared/schemas'
import type { Database } from './database'
import { makeChanges, noteEdit } from './edits'
import { lockEdition, touch } from './editions'
import { PartRow, PassageRow } from './models'

/** What stands in the way of a save: the thing as it is now. */
export interface Conflict {
  readonly id: string
  readonly revision: number
  readonly content?: Content
  readonly label?: string
}

export type ApplyResult = { readonly revisions: Record<string, number> } | { readonly conflicts: Conflict[] }

class ConflictsFound extends Error {
  constructor(readonly conflicts: Conflict[]) {
    super('conflict')
  }
}

/**
 * Carries out operations in one transaction, as one edit that can be undone: all, or none when one of them
 * started from a revision that is no longer the current one.
 */
export async function applyOperations(database: Database, editionId: string, window: string, operations: readonly Operation[]): Promise<ApplyResult> {
  try {
    const revisions: Record<string, number> = {}
    await database.sequelize.transaction(async transaction => {
      const edition = await lockEdition(editionId, transaction)
      const conflicts: Conflict[] = []
      const changes: ScriptChange[] = []
      for (const operation of operations) {
        const planned = operation.op === 'setContent'
          ? await planContent(editionId, operation, revisions, transaction)
          : await planPart(editionId, operation, revisions, transaction)
        if ('revision' in planned) {
          conflicts.push(planned)
          continue
        }
        const made = await makeChanges(editionId, planned, transaction)
        if ('conflicts' in made) throw new Error('A change that was planned in this transaction did not fit.')
        Object.assign(revisions, made.revisions)
        changes.push(...made.changes)
      }
      if (conflicts.length > 0) throw new ConflictsFound(conflicts)
      await noteEdit(database, editionId, window, kindOf[operations[0]!.op], changes, transaction)
      await touch(database, edition, transaction)
    })
    return { revisions }
  } catch (error) {
    if (error instanceof ConflictsFound) return { conflicts: error.conflicts }
    throw error
  }
}

const kindOf: Readonly<Record<Operation['op'], EditKind>> = {
  setContent: 'text', renamePart: 'name', includePart: 'inclusion', movePart: 'order', mergePart: 'merge', splitPart: 'split',
}

type OperationOf<Op extends Operation['op']> = Extract<Operation, { op: Op }>
type PartOperation = Exclude<Operation, OperationOf<'setContent'>>
type Revisions = Readonly<Record<string, number>>

async function planContent(editionId: string, operation: OperationOf<'setContent'>, revisions: Revisions, transaction: Transaction): Promise<PassageChange[] | Conflict> {
  const passage = await PassageRow.findByPk(operation.passageId, { transaction })
  const part = passage === null ? null : await PartRow.findOne({ where: { id: passage.partId, editionId }, transaction })
  if (passage === null || part === null) return gone(operation.passageId)
  if (passage.revision !== (revisions[passage.id] ?? operation.revision)) {
    return { id: passage.id, revision: passage.revision, content: passage.content }
  }
  return [{ of: 'passage', id: passage.id, before: { content: passage.content }, after: { content: canonicalContent(operation.content) } }]
}

async function planPart(editionId: string, operation: PartOperation, revisions: Revisions, transaction: Transaction): Promise<ScriptChange[] | Conflict> {
  const part = await PartRow.findOne({ where: { id: operation.partId, editionId }, transaction })
  if (part === null) return gone(operation.partId)
  if (part.revision !== (revisions[part.id] ?? operation.revision)) return { id: part.id, revision: part.revision, label: part.label }
  const change = <F extends keyof NonNullable<PartChange['after']>>(field: F, value: PartRow[F]): PartChange[] =>
    [{ of: 'part', id: part.id, before: { [field]: part[field] }, after: { [field]: value } }]
  switch (operation.op) {
    case 'renamePart': return change('label', operation.label.trim())
    case 'includePart': return change('included', operation.included)
    case 'movePart': return change('rank', await rankAfter(part, operation.afterPartId, transaction))
    case 'mergePart': return planMerge(part, operation.nextPartId, transaction)
    case 'splitPart': return planSplit(part, operation, transaction)
  }
}

function gone(id: string): never {
  return fail('not-found', 'What was to be changed is no longer in the script. Load the page again.', id)
}

/** The other parts of the same edition, in order. */
async function othersOf(part: PartRow, transaction: Transaction): Promise<PartRow[]> {
  return (await PartRow.findAll({ where: { editionId: part.editionId }, order: [['rank', 'ASC']], transaction })).filter(other => other.id !== part.id)
}

async function rankAfter(part: PartRow, afterPartId: string | null, transaction: Transaction): Promise<string> {
  const others = await othersOf(part, transaction)
  const index = afterPartId === null ? -1 : others.findIndex(other => other.id === afterPartId)
  if (afterPartId !== null && index < 0) return gone(afterPartId)
  return generateKeyBetween(others[index]?.rank ?? null, others[index + 1]?.rank ?? null)
}

async function nextOf(part: PartRow, transaction: Transaction): Promise<PartRow | undefined> {
  return (await othersOf(part, transaction)).find(other => other.rank > part.rank)
}

const passagesOf = (partId: string, transaction: Transaction): Promise<PassageRow[]> =>
  PassageRow.findAll({ where: { partId }, attributes: ['id', 'rank', 'partId'], order: [['rank', 'ASC']], transaction })

/** The passages of the next part follow those of this one; the next part goes. */
async function planMerge(part: PartRow, nextPartId: string, transaction: Transaction): Promise<ScriptChange[] | Conflict> {
  const next = await nextOf(part, transaction)
  if (next === undefined || next.id !== nextPartId) return { id: part.id, revision: part.revision, label: part.label }
  const own = await passagesOf(part.id, transaction)
  const moved = await passagesOf(next.id, transaction)
  const ranks = generateNKeysBetween(own.at(-1)?.rank ?? null, null, moved.length)
  return [
    ...moved.map((passage, index): PassageChange => ({
      of: 'passage', id: passage.id, before: { partId: next.id, rank: passage.rank }, after: { partId: part.id, rank: ranks[index]! },
    })),
    { of: 'part', id: next.id, before: fieldsOf(next), after: null },
  ]
}

/** The passages from one on become a part of their own behind this one, which keeps its identity. */
async function planSplit(part: PartRow, operation: OperationOf<'splitPart'>, transaction: Transaction): Promise<ScriptChange[]> {
  const passages = await passagesOf(part.id, transaction)
  const from = passages.findIndex(passage => passage.id === operation.passageId)
  if (from < 0) return gone(operation.passageId)
  if (from === 0) fail('split-empty', 'This is the first passage of the part: there is nothing before it to keep. Choose a later one.', part.label)
  const next = await nextOf(part, transaction)
  const rank = generateKeyBetween(part.rank, next?.rank ?? null)
  const id = uuidv7()
  return [
    { of: 'part', id, before: null, after: { ...fieldsOf(part), label: operation.label.trim(), rank } },
    ...passages.slice(from).map((passage): PassageChange => ({
      of: 'passage', id: passage.id, before: { partId: part.id }, after: { partId: id },
    })),
  ]
}

function fieldsOf({ rank, kind, label, included }: PartRow): PartFields {
  return { rank, kind, label, included }
}
