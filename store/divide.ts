import { generateNKeysBetween } from 'fractional-indexing'
import type { Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { Split } from '#core/manuscript/choices'
import type { Block } from '#core/manuscript/manuscript'
import type { PassageChange, PassageFields, ScriptChange } from '#core/script/changes'
import { writtenText } from '#core/script/content'
import { divideScript, type DividedGroup, type DividedPart } from '#core/script/divide'
import { EditionRow, ManuscriptRow, partFields, PartRow, PassageRow } from './models'

/** A script with its manuscript's blocks, as dividing it and comparing it need them. */
export interface LoadedScript {
  readonly parts: readonly PartRow[]
  readonly passages: ReadonlyMap<string, readonly PassageRow[]>
  readonly blocks: readonly Block[]
}

export async function loadScript(editionId: string, transaction?: Transaction): Promise<LoadedScript> {
  const within = transaction === undefined ? {} : { transaction }
  const edition = await EditionRow.findByPk(editionId, { attributes: ['manuscriptId'], ...within })
  const manuscriptId = edition?.manuscriptId ?? null
  const manuscript = manuscriptId === null ? null : await ManuscriptRow.findByPk(manuscriptId, within)
  const parts = await PartRow.findAll({ where: { editionId }, order: [['rank', 'ASC']], ...within })
  const rows = await PassageRow.findAll({ where: { partId: parts.map(part => part.id) }, order: [['rank', 'ASC']], ...within })
  const passages = new Map<string, PassageRow[]>(parts.map(part => [part.id, []]))
  for (const row of rows) passages.get(row.partId)!.push(row)
  return { parts, passages, blocks: manuscript?.content?.blocks ?? [] }
}

export function dividedParts({ parts, passages }: LoadedScript): DividedPart[] {
  return parts.map(part => ({
    id: part.id, label: part.label,
    passages: passages.get(part.id)!.map(({ id, kind, content, level, block }) => ({ id, kind, text: writtenText(content), level: level ?? null, block: block ?? null })),
  }))
}

/** The changes that divide a script anew. Texts stay; parts that begin where one began before stay as they are. */
export function planDivision(script: LoadedScript, split: Split): ScriptChange[] {
  const groups = divideScript(dividedParts(script), split, script.blocks)
  const byId = new Map(script.parts.map(part => [part.id, part]))
  const ids = groups.map(group => group.part ?? uuidv7())
  const ranks = ranksOf(groups, byId)
  const rows = new Map([...script.passages.values()].flat().map(row => [row.id, row]))
  const made: ScriptChange[] = []
  const moved: ScriptChange[] = []
  groups.forEach((group, index) => {
    const from = byId.get(group.from)!
    if (group.part === null) {
      made.push({ of: 'part', id: ids[index]!, before: null, after: { ...partFields(from), rank: ranks[index]!, label: group.label } })
    }
    moved.push(...passageChanges(script, rows, group, ids[index]!))
  })
  const kept = new Set(groups.map(group => group.part))
  const gone = script.parts.filter(part => !kept.has(part.id)).map((part): ScriptChange => ({
    of: 'part', id: part.id, before: partFields(part), after: null,
  }))
  return [...made, ...moved, ...gone]
}

/** Parts that stay keep their places; new ones come between them. */
function ranksOf(groups: readonly DividedGroup[], byId: ReadonlyMap<string, PartRow>): string[] {
  const ranks: string[] = []
  for (let at = 0; at < groups.length;) {
    const own = groups[at]!.part
    if (own !== null) {
      ranks.push(byId.get(own)!.rank)
      at += 1
      continue
    }
    const next = groups.findIndex((group, index) => index > at && group.part !== null)
    const until = next < 0 ? groups.length : next
    ranks.push(...generateNKeysBetween(ranks.at(-1) ?? null, next < 0 ? null : byId.get(groups[next]!.part!)!.rank, until - at))
    at = until
  }
  return ranks
}

function passageChanges({ passages }: LoadedScript, rows: ReadonlyMap<string, PassageRow>, group: DividedGroup, partId: string): PassageChange[] {
  const own = passages.get(partId) ?? []
  const isSame = own.length === group.passages.length && group.passages.every((passage, index) => passage.id === own[index]!.id)
  const ranks = isSame ? own.map(row => row.rank) : generateNKeysBetween(null, null, group.passages.length)
  return group.passages.flatMap(({ id, kind }, index): PassageChange[] => {
    const row = rows.get(id)!
    const wanted: Partial<PassageFields> = { partId, rank: ranks[index]!, kind }
    const changed = Object.entries(wanted).filter(([field, value]) => row[field as 'partId' | 'rank' | 'kind'] !== value)
    if (changed.length === 0) return []
    return [{ of: 'passage', id, before: Object.fromEntries(changed.map(([field]) => [field, row[field as 'partId' | 'rank' | 'kind']])), after: Object.fromEntries(changed) }]
  })
}
