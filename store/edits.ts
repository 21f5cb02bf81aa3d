import { generateKeyBetween } from 'fractional-indexing'
import { Op, type Model, type ModelStatic, type Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { inverse, stands, type PartChange, type PassageChange, type PartFields, type ChoiceFields, type DecisionFields, type PassageFields, type ScriptChange, type WordFields } from '#core/script/changes'
import { writtenText, type Content } from '#core/script/content'
import { mainChanges, subjectOf } from '#core/script/subject'
import { styleFields, withStyleFields, type StyleFields } from '#core/style/house-style'
import type { EditHistory, EditKind, EditStep, PagePassage, UndoAnswer, UndoConflict } from '#shared/api'
import type { UndoRequest } from '#shared/schemas'
import type { Database } from './database'
import { lockEdition, touch, touchSharing } from './editions'
import { ChoiceRow, DecisionRow, EditionRow, EditRow, HouseStyleRow, PartRow, PassageRow, WordRow } from './models'

/** Edits of an edition that are kept; the oldest go first. */
const keptEdits = 1000

/** Changes as they were made: a rank can differ from the one asked for. */
interface Made {
  readonly changes: readonly ScriptChange[]
  readonly revisions: Readonly<Record<string, number>>
}

/** Makes changes of a script, all or none: none when something is no longer as they start from. */
export async function makeChanges(editionId: string, changes: readonly ScriptChange[], transaction: Transaction): Promise<Made | { readonly conflicts: UndoConflict[] }> {
  const moved = idsOf(changes, 'passage')
  const parts = await PartRow.findAll({ where: { id: idsOf(changes, 'part'), editionId }, transaction })
  const passages = await PassageRow.findAll({ where: { id: moved }, transaction })
  const words = await WordRow.findAll({ where: { id: idsOf(changes, 'word') }, transaction })
  const decisions = await DecisionRow.findAll({ where: { id: idsOf(changes, 'decision'), editionId }, transaction })
  const choices = await ChoiceRow.findAll({ where: { id: idsOf(changes, 'choice'), editionId }, transaction })
  const styles = await HouseStyleRow.findAll({ where: { id: [...idsOf(changes, 'style'), ...chosenStyles(changes)] }, transaction })
  const edition = changes.some(change => change.of === 'edition') ? await EditionRow.findByPk(editionId, { transaction }) : null
  const rowOf = ({ of, id }: ScriptChange): Standing => {
    if (of === 'word') return words.find(row => row.id === id) ?? null
    if (of === 'decision') return decisions.find(row => row.id === id) ?? null
    if (of === 'choice') return choices.find(row => row.id === id) ?? null
    if (of === 'edition') return edition
    const style = styles.find(row => row.id === id)
    if (of === 'style') return style === undefined ? null : styleFields(style.rules)
    return (of === 'part' ? parts.find(row => row.id === id) : passages.find(row => row.id === id)) ?? null
  }
  const strangers = await PassageRow.findAll({
    where: { partId: changes.filter(change => change.of === 'part' && change.after === null).map(change => change.id), id: { [Op.notIn]: moved } }, attributes: ['partId'], transaction,
  })
  // A part goes only when nothing is left in it.
  const isGone = (change: ScriptChange): boolean => chosenStyles([change]).some(id => !styles.some(style => style.id === id))
  const inTheWay = (change: ScriptChange): boolean =>
    !stands(rowOf(change), change.before) || isGone(change) || change.of === 'part' && change.after === null && strangers.some(passage => passage.partId === change.id)
  const conflicts = changes.filter(inTheWay).map(change => conflictOf(change, rowOf(change), styles))
  if (conflicts.length > 0) return { conflicts }
  const revisions: Record<string, number> = {}
  const made: ScriptChange[] = []
  for (const change of changes) {
    if (change.of === 'style') {
      const style = styles.find(row => row.id === change.id)!
      const rules = withStyleFields(style.rules, change.after!)
      await style.update({ rules, name: rules.name }, { transaction })
      made.push(change)
    } else if (change.of === 'edition') {
      await EditionRow.update(change.after!, { where: { id: editionId }, transaction })
      made.push(change)
    } else if (change.of === 'word' || change.of === 'decision' || change.of === 'choice') {
      const rows = { word: WordRow, decision: DecisionRow, choice: ChoiceRow }[change.of] as ModelStatic<Model>
      if (change.after === null) await rows.destroy({ where: { id: change.id }, transaction })
      else if (change.before === null) await rows.create({ ...change.after, id: change.id }, { transaction })
      else await rows.update(change.after, { where: { id: change.id }, transaction })
      made.push(change)
    } else if (change.of === 'passage') {
      const passage = passages.find(row => row.id === change.id)
      if (change.after === null) {
        await PassageRow.destroy({ where: { id: change.id }, transaction })
      } else if (passage === undefined) {
        await PassageRow.create({ ...change.after as PassageFields, id: change.id }, { transaction })
      } else {
        await passage.update({ ...change.after, revision: passage.revision + 1 }, { transaction })
      }
      if (change.after !== null) revisions[change.id] = passage?.revision ?? 1
      made.push(change)
    } else if (change.after === null) {
      await PartRow.destroy({ where: { id: change.id }, transaction })
      made.push(change)
    } else {
      const after = await withFreeRank(editionId, change, transaction)
      const part = parts.find(row => row.id === change.id)
      if (part === undefined) await PartRow.create({ ...after as PartFields, id: change.id, editionId }, { transaction })
      else await part.update({ ...after, revision: part.revision + 1 }, { transaction })
      revisions[change.id] = part?.revision ?? 1
      made.push({ ...change, after })
    }
  }
  return { changes: made, revisions }
}

/** The house styles that changes choose. */
function chosenStyles(changes: readonly ScriptChange[]): string[] {
  return changes.flatMap(change => change.of === 'edition' ? change.after?.houseStyleId ?? [] : [])
}

function idsOf(changes: readonly ScriptChange[], of: ScriptChange['of']): string[] {
  return changes.filter(change => change.of === of).map(change => change.id)
}

/** A place that a part comes back to may be taken: then it comes right after it. */
async function withFreeRank(editionId: string, change: PartChange, transaction: Transaction): Promise<NonNullable<PartChange['after']>> {
  const after = change.after!
  if (after.rank === undefined) return after
  const others = await PartRow.findAll({
    where: { editionId, id: { [Op.ne]: change.id }, rank: { [Op.gte]: after.rank } }, attributes: ['rank'], order: [['rank', 'ASC']], limit: 2, transaction,
  })
  return others[0]?.rank === after.rank ? { ...after, rank: generateKeyBetween(after.rank, others[1]?.rank ?? null) } : after
}

/** What there is now of what a change is of. */
type Standing = PartRow | PassageRow | WordRow | DecisionRow | ChoiceRow | StyleFields | EditionRow | null

function conflictOf(change: ScriptChange, row: Standing, styles: readonly HouseStyleRow[]): UndoConflict {
  if (change.of === 'edition') {
    const nameOf = (id: string | undefined): string | null => styles.find(style => style.id === id)?.name ?? null
    return { id: change.id, of: 'edition', wanted: nameOf(change.after?.houseStyleId), now: null, revision: null, content: null }
  }
  if (change.of === 'word') {
    const asText = (fields: Partial<WordFields> | null): string | null => fields?.entry === undefined ? null : `${fields.entry.graphemes.join(', ')}: ${fields.entry.said.map(said => said.by === 'letters' ? 'letters' : said.text).join(', ')}`
    return { id: change.id, of: 'word', wanted: asText(change.after), now: asText(row as WordRow | null), revision: null, content: null }
  }
  if (change.of === 'decision') {
    const asText = (fields: Partial<DecisionFields> | null): string | null => fields?.decision === undefined ? null : `left as it is: ${fields.decision.at?.quote ?? (fields.decision.about === 'census' ? fields.decision.key : '')}`
    return { id: change.id, of: 'decision', wanted: asText(change.after), now: asText(row as DecisionRow | null), revision: null, content: null }
  }
  if (change.of === 'choice') {
    const asText = (fields: Partial<ChoiceFields> | null): string | null => fields?.at === undefined ? null : `a take of its own: ${fields.at.quote}`
    return { id: change.id, of: 'choice', wanted: asText(change.after), now: asText(row as ChoiceRow | null), revision: null, content: null }
  }
  if (change.of === 'style') {
    const asText = (fields: Partial<StyleFields> | null): string | null => fields === null ? null : Object.keys(change.after!).map(field => {
      const value = fields[field as keyof StyleFields]
      return typeof value === 'object' && value !== null && 'beforeMs' in value ? `${field}: ${value.beforeMs} ms before, ${value.afterMs} ms after` : `${field}: ${typeof value === 'object' ? JSON.stringify(value) : value}`
    }).join('; ')
    return { id: change.id, of: 'style', wanted: asText(change.after), now: asText(row as StyleFields | null), revision: null, content: null }
  }
  const shown = (fields: { content?: Content, label?: string } | null | undefined): string | null =>
    fields?.content === undefined ? fields?.label ?? null : writtenText(fields.content)
  return {
    id: change.id, of: change.of, wanted: shown(change.after), now: shown(row as PartRow | PassageRow | null), revision: (row as PartRow | PassageRow | null)?.revision ?? null,
    content: (change as PassageChange).after?.content ?? null,
  }
}

/** Notes an edit of a window; what it had undone before cannot be redone any more. */
export async function noteEdit(
  database: Database, editionId: string, authorWindow: string, what: EditKind, changes: readonly ScriptChange[], transaction: Transaction,
): Promise<void> {
  await EditRow.destroy({ where: { editionId, authorWindow, undone: true }, transaction })
  await EditRow.create({ id: uuidv7(), editionId, authorWindow, what, changes }, { transaction })
  await database.rows(
    'DELETE FROM edits WHERE ordinal <= (SELECT ordinal FROM edits WHERE edition_id = $1 ORDER BY ordinal DESC OFFSET $2 LIMIT 1) AND edition_id = $1 RETURNING id',
    [editionId, keptEdits], transaction)
}

/** The edit that a window would undo or redo next. */
function nextEdit(editionId: string, authorWindow: string, direction: UndoRequest['direction'], transaction?: Transaction): Promise<EditRow | null> {
  const undone = direction === 'redo'
  return EditRow.findOne({ where: { editionId, authorWindow, undone }, order: [['ordinal', undone ? 'ASC' : 'DESC']], ...(transaction === undefined ? {} : { transaction }) })
}

export async function historyOf(editionId: string, window: string): Promise<EditHistory> {
  const [undo, redo] = await Promise.all([nextEdit(editionId, window, 'undo'), nextEdit(editionId, window, 'redo')])
  const [undoStep, redoStep] = await Promise.all([stepOf(undo), stepOf(redo)])
  return { undo: undoStep, redo: redoStep }
}

async function stepOf(edit: EditRow | null, transaction?: Transaction): Promise<EditStep | null> {
  if (edit === null) return null
  const [first] = mainChanges(edit.changes)
  const asked = transaction === undefined ? {} : { transaction }
  const part = first?.of === 'part' ? await PartRow.findByPk(first.id, asked) : null
  const passage = first?.of === 'passage' ? await PassageRow.findByPk(first.id, asked) : null
  return { kind: edit.what, subject: subjectOf(edit.changes, passage === null ? part?.label : writtenText(passage.content)) }
}

type Undone = Omit<UndoAnswer, keyof EditHistory>

export type UndoResult = UndoAnswer | { readonly editId: string, readonly conflicts: readonly UndoConflict[] }

/**
 * Undoes the newest edit of a window, or redoes the one it undid last. Refused, with what stands in the
 * way, when something that the edit changed was changed since.
 */
export async function undo(database: Database, editionId: string, { window, direction, giveUp }: UndoRequest): Promise<UndoResult> {
  const result = await database.sequelize.transaction(async (transaction): Promise<Undone | Extract<UndoResult, { editId: string }> | null> => {
    const edition = await lockEdition(editionId, transaction)
    if (giveUp !== undefined) await EditRow.destroy({ where: { id: giveUp, editionId, authorWindow: window }, transaction })
    const edit = giveUp === undefined ? await nextEdit(editionId, window, direction, transaction) : null
    if (edit === null) return null
    const made = await makeChanges(editionId, direction === 'undo' ? inverse(edit.changes) : edit.changes, transaction)
    if ('conflicts' in made) return { editId: edit.id, conflicts: made.conflicts }
    await edit.update({ undone: direction === 'undo', changes: direction === 'undo' ? inverse(made.changes) : made.changes }, { transaction })
    await touch(database, edition, transaction)
    await touchSharing(database, edition, made.changes, transaction)
    return { done: await stepOf(edit, transaction), ...await changedBy(made.changes, transaction) }
  })
  if (result !== null && 'conflicts' in result) return result
  return { done: null, partId: null, passages: [], ...result, ...await historyOf(editionId, window) }
}

/** Whether a change is to be seen in the passage itself, and not only in its place. */
function changesPassage(after: Partial<PassageFields>): boolean {
  return after.content !== undefined || after.role !== undefined || after.language !== undefined || after.kind !== undefined
}

/** A passage as the page shows it. */
export function pagePassage({ id, kind, level, content, language, role, revision }: PassageRow): PagePassage {
  return { id, kind, ...(level === null || level === undefined ? {} : { level }), content, language, role, revision }
}

async function changedBy(changes: readonly ScriptChange[], transaction: Transaction): Promise<Pick<UndoAnswer, 'partId' | 'passages'>> {
  const rows = await PassageRow.findAll({ where: { id: idsOf(changes, 'passage') }, order: [['rank', 'ASC']], transaction })
  const rewritten = new Set(changes.filter(change => change.of === 'passage' && change.after !== null && changesPassage(change.after)).map(change => change.id))
  const standing = changes.find(change => change.of === 'part' && change.after !== null)
  return {
    partId: rows[0]?.partId ?? standing?.id ?? null,
    passages: rows.filter(row => rewritten.has(row.id)).map(pagePassage),
  }
}
