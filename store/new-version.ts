import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing'
import { v7 as uuidv7 } from 'uuid'
import type { Choices } from '#core/manuscript/choices'
import { compareVersions, type Compared, type OldPassage } from '#core/manuscript/compare'
import type { ProposedPart, ProposedPassage } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import type { PartChange, PassageChange, PassageFields, ScriptChange } from '#core/script/changes'
import { writtenText } from '#core/script/content'
import { withText } from '#core/script/retext'
import { count, most } from '#core/tally'
import type { Database } from './database'
import { loadScript, type LoadedScript } from './divide'
import { makeChanges, noteEdit } from './edits'
import { lockEdition, passageFields, touch, withRoleIds, type CastPart, type CastPassage } from './editions'
import { EditionRow, partFields, type PassageRow, allFields } from './models'

/** A new version of the manuscript beside the script. */
export interface VersionComparison<P extends ProposedPassage = ProposedPassage> {
  readonly script: LoadedScript
  readonly before: readonly OldPassage[]
  readonly after: readonly { readonly part: number, readonly passage: P, readonly text: string }[]
  readonly rows: readonly Compared[]
}

export function compareWith<P extends ProposedPassage>(script: LoadedScript, parts: readonly (Omit<ProposedPart, 'passages'> & { readonly passages: readonly P[] })[]): VersionComparison<P> {
  const before = script.parts.flatMap(part => script.passages.get(part.id)!.map((row): OldPassage => ({ id: row.id, part: part.id, imported: row.importedText, written: writtenText(row.content) })))
  const after = parts.flatMap((part, index) => part.passages.map(passage => ({ part: index, passage, text: passage.text })))
  return { script, before, after, rows: compareVersions(before, after) }
}

/** What is taken over: for passages that both sides changed, and those that are gone though they were changed here. */
export interface TakeOverRequest {
  readonly manuscriptId: string
  readonly parts: readonly ProposedPart[]
  readonly choices: Choices
  /** Ids of passages whose text of the script stays. */
  readonly keep: ReadonlySet<string>
}

/**
 * Takes a new version of the manuscript over, as one edit that can be undone. What is equal stays untouched with its
 * directions and readings; the script's own order and division stay where the new version has nothing to say about them.
 */
export async function takeOverVersion(database: Database, editionId: string, window: string, request: TakeOverRequest): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    const edition = await lockEdition(editionId, transaction)
    const script = await loadScript(editionId, transaction)
    const parts = await withRoleIds(edition, request.parts, transaction)
    const changes = planTakeOver(compareWith(script, parts), parts, request.keep)
    const made = await makeChanges(editionId, changes, transaction)
    if ('conflicts' in made) fail('version-conflict', 'The script was changed meanwhile. Compare again.')
    if (made.changes.length > 0) await noteEdit(database, editionId, window, 'version', made.changes, transaction)
    await EditionRow.update({ manuscriptId: request.manuscriptId, choices: request.choices }, { where: { id: edition.id }, transaction })
    await touch(database, edition, transaction)
  })
}

/** A passage that comes in. */
interface Placed {
  readonly fields: Omit<PassageFields, 'partId' | 'rank'>
}

function planTakeOver({ script, before, after, rows }: VersionComparison<CastPassage>, parts: readonly CastPart[], keep: ReadonlySet<string>): ScriptChange[] {
  const rowById = new Map([...script.passages.values()].flat().map(row => [row.id, row]))
  const oldRow = (index: number): PassageRow => rowById.get(before[index]!.id)!
  const gone = new Set(rows.filter(row => row.state === 'gone' && !keep.has(before[row.before!]!.id)).map(row => before[row.before!]!.id))
  const homes = homesOf(script, before, after, rows, parts)
  // Every part as it will be: what it has, without what goes or moves away, with what comes in after what stands before it.
  const lists = new Map<string, (PassageRow | Placed)[]>(script.parts.map(part => [part.id, script.passages.get(part.id)!.filter(row => !gone.has(row.id))]))
  const made: PartChange[] = []
  const ranks = new Map(script.parts.map(part => [part.id, part.rank]))
  let lastHome: string | null = null
  const homeIds = homes.map((home, index) => {
    const id: string = home ?? uuidv7()
    if (home === null) {
      const own = [...ranks.values()].sort()
      const at = lastHome === null ? -1 : own.indexOf(ranks.get(lastHome)!)
      const rank = generateKeyBetween(own[at] ?? null, own[at + 1] ?? null)
      const { kind, label, included, about } = parts[index]!
      made.push({ of: 'part', id, before: null, after: { rank, kind, label, included, about } })
      ranks.set(id, rank)
      lists.set(id, [])
    }
    lastHome = id
    return id
  })
  const last = new Map<string, PassageRow | Placed>()
  for (const { state, before: oldIndex, after: newIndex } of rows) {
    if (newIndex === null) continue
    const { passage, part } = after[newIndex]!
    const home = homeIds[part]!
    const list = lists.get(home)!
    if (oldIndex !== null && state !== 'moved' && list.includes(oldRow(oldIndex))) {
      last.set(home, oldRow(oldIndex))
      continue
    }
    const entry: PassageRow | Placed = oldIndex === null ? { fields: passageFields(passage) } : oldRow(oldIndex)
    for (const other of lists.values()) if (other.includes(entry)) other.splice(other.indexOf(entry), 1)
    const anchor = last.get(home)
    list.splice(anchor === undefined ? 0 : list.indexOf(anchor) + 1, 0, entry)
    last.set(home, entry)
  }
  const passages = [...lists].flatMap(([partId, list]) => placeChanges(partId, list))
  const texts = rows.flatMap(({ state, before: oldIndex, after: newIndex }) =>
    oldIndex === null || newIndex === null ? [] : textChanges(oldRow(oldIndex), after[newIndex]!.passage, state === 'edited' && !keep.has(before[oldIndex]!.id)))
  const removed = [...gone].map((id): PassageChange => ({ of: 'passage', id, before: allFields(rowById.get(id)!), after: null }))
  const empty = script.parts.filter(part => lists.get(part.id)!.length === 0 && script.passages.get(part.id)!.length > 0).map((part): PartChange => ({
    of: 'part', id: part.id, before: partFields(part), after: null,
  }))
  return [...made, ...movedParts(script, homes), ...joined([...passages, ...texts]), ...removed, ...empty]
}

/** The part of the script that each part of the new version belongs to: where most of its passages are; null for a new one. */
function homesOf(script: LoadedScript, before: readonly OldPassage[], after: VersionComparison['after'], rows: readonly Compared[], parts: readonly ProposedPart[]): (string | null)[] {
  const votes = parts.map(() => new Map<string, number>())
  for (const { before: oldIndex, after: newIndex } of rows) {
    if (oldIndex === null || newIndex === null) continue
    const own = votes[after[newIndex]!.part]!
    const { part } = before[oldIndex]!
    count(own, part)
  }
  const byLabel = new Map(script.parts.map(part => [part.label, part.id]))
  return votes.map((own, index) => {
    return most(own)?.[0] ?? (parts[index]!.passages.length === 0 ? byLabel.get(parts[index]!.label) : undefined) ?? null
  })
}

/** Parts that the new version has in another order: those outside the longest run that is in order move behind their new neighbour. */
function movedParts({ parts }: LoadedScript, homes: readonly (string | null)[]): PartChange[] {
  const index = new Map(parts.map((part, at) => [part.id, at]))
  const order = [...new Set(homes.filter(home => home !== null))]
  const staying = new Set(longestRising(order.map(id => index.get(id)!)).map(at => order[at]!))
  const ranks = new Map(parts.map(part => [part.id, part.rank]))
  return order.flatMap((id, at): PartChange[] => {
    if (staying.has(id)) return []
    const { rank } = parts[index.get(id)!]!
    const others = [...ranks].filter(([other]) => other !== id).map(([, each]) => each).sort()
    const place = at === 0 ? -1 : others.indexOf(ranks.get(order[at - 1]!)!)
    const next = generateKeyBetween(others[place] ?? null, others[place + 1] ?? null)
    ranks.set(id, next)
    return [{ of: 'part', id, before: { rank }, after: { rank: next } }]
  })
}

/** Places of the longest rising subsequence. */
function longestRising(values: readonly number[]): number[] {
  const best: { length: number, previous: number }[] = []
  values.forEach((value, at) => {
    let own = { length: 1, previous: -1 }
    for (let other = 0; other < at; other += 1) if (values[other]! < value && best[other]!.length >= own.length) own = { length: best[other]!.length + 1, previous: other }
    best.push(own)
  })
  const run: number[] = []
  let end = -1
  best.forEach((each, place) => { if (end < 0 || each.length > best[end]!.length) end = place })
  for (let at = end; at >= 0; at = best[at]!.previous) run.unshift(at)
  return run
}

/** New places for the passages of a part, where they are not in order already. */
function placeChanges(partId: string, list: readonly (PassageRow | Placed)[]): PassageChange[] {
  const isInOrder = list.every((entry, index) => isRow(entry) && entry.partId === partId && (index === 0 || (list[index - 1] as PassageRow).rank < entry.rank))
  if (isInOrder) return []
  const ranks = generateNKeysBetween(null, null, list.length)
  return list.flatMap((entry, index): PassageChange[] => {
    const rank = ranks[index]!
    if (!isRow(entry)) return [{ of: 'passage', id: uuidv7(), before: null, after: { ...entry.fields, partId, rank } }]
    if (entry.partId === partId && entry.rank === rank) return []
    return [{ of: 'passage', id: entry.id, before: { partId: entry.partId, rank: entry.rank }, after: { partId, rank } }]
  })
}

function isRow(entry: PassageRow | Placed): entry is PassageRow {
  return 'partId' in entry
}

/** What a passage came in with is what the new version says; its text only where that was changed and is taken. */
function textChanges(row: PassageRow, passage: ProposedPassage, isTaken: boolean): PassageChange[] {
  const fields: Partial<PassageFields> = {
    importedText: passage.text, block: passage.block, level: passage.level ?? null, language: passage.language ?? null,
    ...(isTaken ? { content: withText(row.content, passage.text) } : {}),
  }
  const changed = Object.entries(fields).filter(([field, value]) => (row[field as keyof PassageRow] ?? null) !== value)
  if (changed.length === 0) return []
  return [{ of: 'passage', id: row.id, before: Object.fromEntries(changed.map(([field]) => [field, row[field as keyof PassageRow] ?? null])), after: Object.fromEntries(changed) }]
}

/** One change of a passage for several. */
function joined(changes: readonly PassageChange[]): PassageChange[] {
  const byId = new Map<string, PassageChange>()
  for (const change of changes) {
    const known = byId.get(change.id)
    byId.set(change.id, known === undefined ? change : { ...known, before: { ...known.before, ...change.before }, after: { ...known.after, ...change.after } })
  }
  return [...byId.values()]
}
