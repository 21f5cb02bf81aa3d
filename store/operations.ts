import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import { QueryTypes, type Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { fail } from '#core/problem'
import { stands, type ChoiceChange, type DecisionChange, type EditionChange, type PartChange, type PassageChange, type ScriptChange, type StyleChange, type WordChange } from '#core/script/changes'
import { canonicalContent, plainContent, type Content } from '#core/script/content'
import { asTurn } from '#core/script/dialogue'
import { replaceIn } from '#core/script/find'
import { namesOf, withRoles } from '#core/script/roles'
import { rolesOfPassage } from '#core/script/script'
import { patchHouseStyle, styleFields, type StyleFields } from '#core/style/house-style'
import { checkRule } from '#core/style/rule'
import { saidFault } from '#core/words/faults'
import type { EditKind, OperationsAnswer } from '#shared/api'
import type { Operation } from '#shared/operations'
import type { Database } from './database'
import { loadScript, planDivision } from './divide'
import { makeChanges, noteEdit } from './edits'
import { ensureRoles, ownHouseStyle, lockEdition, makeRole, touch, touchSharing } from './editions'
import { allFields, ChoiceRow, DecisionRow, HouseStyleRow, partFields, PartRow, PassageRow, RoleRow, WordbookRow, WordRow, type EditionRow } from './models'
import { wordbookId } from './wordbooks'

/** What stands in the way of a save: the thing as it is now. */
export interface Conflict {
  readonly id: string
  readonly revision: number
  readonly content?: Content
  readonly label?: string
}

export type ApplyResult = Omit<OperationsAnswer, 'revisions'> & { readonly revisions: Record<string, number> } | { readonly conflicts: Conflict[] }

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
    let replaced: OperationsAnswer['replaced']
    await database.sequelize.transaction(async transaction => {
      const edition = await lockEdition(editionId, transaction)
      const conflicts: Conflict[] = []
      const changes: ScriptChange[] = []
      for (const operation of operations) {
        if (operation.op === 'makeRole') {
          await makeRole(edition, operation.id, operation.name.trim(), transaction)
          continue
        }
        const planned = await plan(edition, operation, revisions, transaction)
        if ('revision' in planned) {
          conflicts.push(planned)
          continue
        }
        if ('replaced' in planned) replaced = planned.replaced
        const steps = 'replaced' in planned ? planned.changes : planned
        const made = await makeChanges(editionId, steps, transaction)
        if ('conflicts' in made) throw new Error('A change that was planned in this transaction did not fit.')
        Object.assign(revisions, made.revisions)
        changes.push(...made.changes)
      }
      if (conflicts.length > 0) throw new ConflictsFound(conflicts)
      const edit = operations.find((operation): operation is PlannedOperation => operation.op !== 'makeRole')
      if (changes.length > 0 && edit !== undefined) {
        await refuseUnknownRoles(edition, rolesIn(changes), transaction)
        await noteEdit(database, editionId, window, kindOf[edit.op], changes, transaction)
      }
      if (changes.length > 0 || operations.some(operation => operation.op === 'makeRole')) await touch(database, edition, transaction)
      await touchSharing(database, edition, changes, transaction)
    })
    return { revisions, ...(replaced === undefined ? {} : { replaced }) }
  } catch (error) {
    if (error instanceof ConflictsFound) return { conflicts: error.conflicts }
    throw error
  }
}

/** Operations that change the script: a role is made beside it, and is not undone with it. */
type PlannedOperation = Exclude<Operation, { op: 'makeRole' }>

const kindOf: Readonly<Record<PlannedOperation['op'], EditKind>> = {
  setContent: 'text', setPassage: 'passage', setPassages: 'passages', dialogue: 'dialogue', replace: 'replacement',
  setHouseStyle: 'style', chooseHouseStyle: 'houseStyle', copyHouseStyle: 'houseStyle', setWord: 'word', decide: 'decision', chooseTake: 'take', renamePart: 'name', includePart: 'inclusion', movePart: 'order', mergePart: 'merge', splitPart: 'split', divide: 'division',
}

type Planned = readonly ScriptChange[] | Conflict | { readonly replaced: NonNullable<OperationsAnswer['replaced']>, readonly changes: readonly ScriptChange[] }

async function plan(edition: EditionRow, operation: PlannedOperation, revisions: Revisions, transaction: Transaction): Promise<Planned> {
  switch (operation.op) {
    case 'setContent':
    case 'setPassage': return planPassage(edition.id, operation, revisions, transaction)
    case 'setPassages': return planPassages(edition.id, operation, transaction)
    case 'dialogue': return planDialogue(edition, operation, transaction)
    case 'replace': return planReplace(edition, operation, transaction)
    case 'setWord': return planWord(edition, operation, transaction)
    case 'decide': return planDecision(edition.id, operation, transaction)
    case 'chooseTake': return planChoice(edition.id, operation, transaction)
    case 'setHouseStyle': return planHouseStyle(edition, operation, transaction)
    case 'chooseHouseStyle': return planHouseStyleOf(edition, operation.houseStyleId, transaction)
    case 'copyHouseStyle': return planHouseStyleOf(edition, await ownHouseStyle(edition, transaction), transaction)
    case 'divide': return planDivide(edition.id, operation, transaction)
    default: return planPart(edition.id, operation, revisions, transaction)
  }
}

/** The roles that changes bring in. */
function rolesIn(changes: readonly ScriptChange[]): string[] {
  return changes.flatMap(change => {
    if (change.of !== 'passage' || change.after === null) return []
    const { role, content = plainContent('') } = change.after
    return rolesOfPassage({ role, content })
  })
}

/** Throws a problem for a role that the production has not. */
async function refuseUnknownRoles({ productionId }: EditionRow, ids: readonly string[], transaction: Transaction): Promise<void> {
  const known = new Set((await RoleRow.findAll({ where: { productionId }, attributes: ['id'], transaction })).map(role => role.id))
  if (ids.some(id => !known.has(id))) fail('role-unknown', 'A role that speaks here is not in the cast. Load the page again, and choose a role.')
}

type OperationOf<Op extends Operation['op']> = Extract<Operation, { op: Op }>
type PartOperation = Exclude<PlannedOperation, OperationOf<'setContent' | 'setPassage' | 'setPassages' | 'dialogue' | 'replace' | 'divide' | 'setHouseStyle' | 'chooseHouseStyle' | 'copyHouseStyle' | 'setWord' | 'decide' | 'chooseTake'>>
type Revisions = Readonly<Record<string, number>>

async function planPassage(editionId: string, operation: OperationOf<'setContent' | 'setPassage'>, revisions: Revisions, transaction: Transaction): Promise<PassageChange[] | Conflict> {
  const passage = await PassageRow.findByPk(operation.passageId, { transaction })
  const part = passage === null ? null : await PartRow.findOne({ where: { id: passage.partId, editionId }, transaction })
  if (passage === null || part === null) return gone(operation.passageId)
  if (passage.revision !== (revisions[passage.id] ?? operation.revision)) {
    return { id: passage.id, revision: passage.revision, content: passage.content }
  }
  if (operation.op === 'setContent') return [{ of: 'passage', id: passage.id, before: { content: passage.content }, after: { content: canonicalContent(operation.content) } }]
  const { kind, language, role } = operation
  const after = { ...(kind === undefined ? {} : { kind }), ...(language === undefined ? {} : { language }), ...(role === undefined ? {} : { role }) }
  const before = Object.fromEntries(Object.keys(after).map(field => [field, passage[field as keyof typeof after] ?? null]))
  return [{ of: 'passage', id: passage.id, before, after }]
}

/** The values that are given; those that are so already are no change. */
async function planHouseStyle(edition: EditionRow, { patch }: OperationOf<'setHouseStyle'>, transaction: Transaction): Promise<StyleChange[]> {
  const { id, rules } = await HouseStyleRow.findByPk(edition.houseStyleId, { transaction, rejectOnEmpty: true, lock: transaction.LOCK.UPDATE })
  const [before, after] = [styleFields(rules), styleFields(patchHouseStyle(rules, patch))]
  for (const rule of Object.values(patch.rules ?? {})) if (rule !== null) checkRule(rule)
  const changed = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter((field): field is keyof StyleFields => !stands(before, { [field]: after[field as keyof StyleFields] ?? null }))
  const only = (fields: StyleFields): Partial<StyleFields> => Object.fromEntries(changed.map(field => [field, fields[field] ?? null])) as Partial<StyleFields>
  return changed.length === 0 ? [] : [{ of: 'style', id, before: only(before), after: only(after) }]
}

/** Another house style, which others may have too. */
async function planHouseStyleOf({ id, houseStyleId: before }: EditionRow, houseStyleId: string, transaction: Transaction): Promise<EditionChange[]> {
  if (await HouseStyleRow.findByPk(houseStyleId, { transaction, lock: transaction.LOCK.SHARE }) === null) fail('not-found', 'This house style is gone. Choose another one.')
  return houseStyleId === before ? [] : [{ of: 'edition', id, before: { houseStyleId: before }, after: { houseStyleId } }]
}

/** A choice of a take, another one in its place, or none. */
async function planChoice(editionId: string, { id, choice }: OperationOf<'chooseTake'>, transaction: Transaction): Promise<ChoiceChange[]> {
  const row = await ChoiceRow.findOne({ where: { id, editionId }, transaction })
  const before = row === null ? null : { editionId, at: row.at, take: row.take }
  const after = choice === null ? null : { editionId, ...choice }
  // Whoever makes room waits for this, or this for them: a take that is chosen does not go.
  const asked = { type: QueryTypes.SELECT, transaction } as const
  await ChoiceRow.sequelize!.query('LOCK TABLE choices IN ROW EXCLUSIVE MODE', { transaction })
  if (choice !== null && (await ChoiceRow.sequelize!.query('SELECT id FROM takes WHERE id = $1', { ...asked, bind: [choice.take] })).length === 0) fail('not-found', 'This take is no longer there. Load the page again.')
  return before === null && after === null || before !== null && stands(after, before) ? [] : [{ of: 'choice', id, before, after }]
}

/** A decision, another one in its place, or none. */
async function planDecision(editionId: string, { id, decision }: OperationOf<'decide'>, transaction: Transaction): Promise<DecisionChange[]> {
  const row = await DecisionRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
  if (row !== null && row.editionId !== editionId) fail('not-found', 'This belongs to another production.')
  const before = row === null ? null : { editionId, decision: row.decision }
  const after = decision === null ? null : { editionId, decision }
  return before === null && after === null || before !== null && stands(after, before) ? [] : [{ of: 'decision', id, before, after }]
}

/** An entry of the production's wordbook or the shared one: a new one, another one in its place, or none. */
async function planWord(edition: EditionRow, { id, shared, entry }: OperationOf<'setWord'>, transaction: Transaction): Promise<WordChange[]> {
  const own = await wordbookId(shared ? null : edition.productionId, transaction)
  const row = await WordRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
  const book = row === null || row.wordbookId === own ? null : await WordbookRow.findByPk(row.wordbookId, { transaction })
  if (book !== null && book.productionId !== null && book.productionId !== edition.productionId) fail('not-found', 'This entry belongs to another production.')
  const wrong = entry === null ? null : entry.said.map(said => saidFault(said, entry.language)).find(fault => fault !== null) ?? null
  if (wrong !== null) fail('word-wrong', `${entry!.graphemes[0]}: ${wrong}`)
  const before = row === null ? null : { wordbookId: row.wordbookId, entry: row.entry }
  const after = entry === null ? null : { wordbookId: own, entry }
  return stands(before, after) ? [] : [{ of: 'word', id, before, after }]
}

/** The passages of a part as they are to be: those that are there under their ids, new ones, and without those that are not named. */
async function planPassages(editionId: string, { partId, seen, passages }: OperationOf<'setPassages'>, transaction: Transaction): Promise<PassageChange[] | Conflict> {
  const part = await PartRow.findOne({ where: { id: partId, editionId }, transaction })
  if (part === null) return gone(partId)
  const rows = await PassageRow.findAll({ where: { partId }, order: [['rank', 'ASC']], transaction })
  const revisions = new Map(seen.map(passage => [passage.id, passage.revision]))
  const changed = rows.find(row => revisions.get(row.id) !== row.revision)
  if (changed !== undefined) return { id: changed.id, revision: changed.revision, content: changed.content }
  if (rows.length !== seen.length) return { id: part.id, revision: part.revision, label: part.label }
  const known = new Map(rows.map(row => [row.id, row]))
  const strangers = await PassageRow.findAll({ where: { id: passages.filter(passage => !known.has(passage.id)).map(passage => passage.id) }, attributes: ['id'], transaction })
  if (strangers.length > 0 || new Set(passages.map(passage => passage.id)).size < passages.length) fail('passage-doubled', 'A passage was named twice, or belongs to another part. Load the page again.', part.label)
  const inOrder = passages.filter(passage => known.has(passage.id)).every((passage, index, kept) => index === 0 || known.get(kept[index - 1]!.id)!.rank < known.get(passage.id)!.rank)
  const ranks = inOrder && passages.length === rows.length ? rows.map(row => row.rank) : generateNKeysBetween(rows.at(-1)?.rank ?? null, null, passages.length)
  const named = new Set(passages.map(passage => passage.id))
  return [
    ...rows.filter(row => !named.has(row.id)).map((row): PassageChange => ({ of: 'passage', id: row.id, before: allFields(row), after: null })),
    ...passages.flatMap(({ id, kind, content, language, role }, index): PassageChange[] => {
      const row = known.get(id)
      const after = { rank: ranks[index]!, kind, content: canonicalContent(content), language, role }
      if (row === undefined) return [{ of: 'passage', id, before: null, after: { ...after, partId, importedText: null, level: null, block: null } }]
      const before = { rank: row.rank, kind: row.kind, content: row.content, language: row.language ?? null, role: row.role ?? null }
      return stands(after, before) ? [] : [{ of: 'passage', id, before, after }]
    }),
  ]
}

/** Every passage of an edition, in the order of the script. */
async function everyPassage(editionId: string, transaction: Transaction): Promise<PassageRow[]> {
  const parts = await PartRow.findAll({ where: { editionId }, attributes: ['id'], transaction })
  return PassageRow.findAll({ where: { partId: parts.map(part => part.id) }, order: [['rank', 'ASC']], transaction })
}

async function planDialogue(edition: EditionRow, { roles }: OperationOf<'dialogue'>, transaction: Transaction): Promise<PassageChange[]> {
  const ids = await ensureRoles(edition, roles.map(({ role }) => role.trim()), transaction)
  const byLabel = new Map(roles.map(({ label, role }) => [label, ids.get(role.trim())!]))
  return (await everyPassage(edition.id, transaction)).flatMap((row): PassageChange[] => {
    const turn = asTurn(row.content, byLabel, `x${uuidv7()}`)
    return turn === null ? [] : [{ of: 'passage', id: row.id, before: { content: row.content, role: row.role ?? null }, after: turn }]
  })
}

async function planReplace(edition: EditionRow, { query, replacement, only }: OperationOf<'replace'>, transaction: Transaction): Promise<Planned> {
  const rows = await everyPassage(edition.id, transaction)
  const one = only === undefined ? undefined : rows.find(row => row.id === only.passageId) ?? gone(only.passageId)
  if (one !== undefined && one.revision !== only!.revision) return { id: one.id, revision: one.revision, content: one.content }
  const named = namesOf(await RoleRow.findAll({ where: { productionId: edition.productionId }, transaction }))
  let [count, refused] = [0, 0]
  // Roles are found and written by their names.
  const changed = (one === undefined ? rows : [one]).flatMap(row => {
    const done = replaceIn(withRoles(row.content, named), query, replacement, row.language ?? edition.language, only)
    count += done.count
    refused += done.refused
    return done.count === 0 ? [] : [{ row, content: done.content }]
  })
  const ids = await ensureRoles(edition, changed.flatMap(({ content }) => rolesOfPassage({ content })), transaction)
  const changes = changed.map(({ row, content }): PassageChange => ({ of: 'passage', id: row.id, before: { content: row.content }, after: { content: withRoles(content, name => ids.get(name)!) } }))
  return { replaced: { count, passages: changes.length, refused }, changes }
}

async function planDivide(editionId: string, { split, parts }: OperationOf<'divide'>, transaction: Transaction): Promise<ScriptChange[] | Conflict> {
  const script = await loadScript(editionId, transaction)
  const seen = new Map(parts.map(part => [part.id, part.revision]))
  const changed = script.parts.find(part => seen.get(part.id) !== part.revision)
  if (changed !== undefined || script.parts.length !== parts.length) {
    const { id, revision, label } = changed ?? script.parts[0]!
    return { id, revision, label }
  }
  return planDivision(script, split)
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
    { of: 'part', id: next.id, before: partFields(next), after: null },
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
    { of: 'part', id, before: null, after: { ...partFields(part), label: operation.label.trim(), rank } },
    ...passages.slice(from).map((passage): PassageChange => ({
      of: 'passage', id: passage.id, before: { partId: part.id }, after: { partId: id },
    })),
  ]
}
