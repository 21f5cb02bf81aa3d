import { samplesToMs } from '#core/audio/pcm'
import { noDetails } from '#core/delivery/details'
import { workNames } from '#core/delivery/naming'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profiles, type ProfileName } from '#core/delivery/profiles'
import { fail } from '#core/problem'
import { runSheet, type DeliveredWork, type HeardPart, type SheetFile } from '#core/runsheet/run-sheet'
import type { FileSplit } from '#core/delivery/file-split'
import type { DividedPart, FileMark, SheetPlaces, SheetUnit } from '#core/runsheet/split'
import { divided } from '#core/runsheet/units'
import type { PartAbout, PartKind } from '#core/script/script'
import type { KnownTake } from '#core/takes/take'
import { addTo } from '#core/tally'
import type { FilePassage } from '#shared/delivery'
import type { FileMarksRequest } from '#shared/schemas'
import type { Database } from './database'
import { postEvent } from './events'
import { lockEdition, type LoadedEdition } from './editions'
import { referencesOf, scoreEdition, takesOfParts, type ScoredEdition, type ScoredPart } from './score'
import { samplesAtSql, takeIndex } from './take-index'

/** What the files of an edition are made as, or would be with another profile: called as its files are where these have names of their own, but divided as that says. */
export function profileOf({ edition, ownProfile }: Pick<LoadedEdition, 'edition' | 'ownProfile'>, other?: DeliveryProfile): DeliveryProfile {
  const name: ProfileName = edition.profile
  const profile = other ?? ownProfile ?? profiles[name]
  return { ...profile, namePattern: edition.namePattern ?? profile.namePattern, nameRules: { ...profile.nameRules, ...edition.nameRules }, split: other === undefined ? edition.split ?? profile.split : profile.split }
}

export function workOf({ production, edition }: Pick<LoadedEdition, 'edition' | 'production'>): DeliveredWork {
  return { title: production.title, author: production.author, language: edition.language, details: edition.details ?? noDetails, cover: edition.cover ?? null }
}

/** The files that a delivery made now would have, by the lengths of takes that exist. */
export async function sheetOf(database: Database, scored: ScoredEdition, takes: ReadonlyMap<string, KnownTake>, profile = profileOf(scored)): Promise<SheetFile<HeardPart>[]> {
  const parts = scored.parts.flatMap((part, index) => part.row.included ? [heardPart(part, index + 1, takes)] : [])
  return runSheet(parts, profile, await placesOf(database, scored, profile))
}

function heardPart(part: ScoredPart, number: number, takes: ReadonlyMap<string, KnownTake>): HeardPart {
  const { row: { id, kind, label, about }, score, spoken, trackRate } = part
  const references = referencesOf(part, takes)
  return { id, number, label, kind, about: about ?? null, ...divided(score, references, spoken, trackRate), score, references }
}

/** A unit as it is kept: without what depends on which takes there are. `otherSamples`: of rests and sounds. */
interface KeptUnit extends Omit<SheetUnit, 'samples' | 'missing'> {
  readonly otherSamples: number
}

/** What is kept of a part for run sheets. */
export interface KeptDivision extends Pick<DividedPart, 'passages' | 'end'> {
  readonly units: readonly KeptUnit[]
}

/** What is kept of a part; `samples`: what was taken for the length of each take. */
export function keptDivision({ passages, end, units }: Pick<DividedPart, 'passages' | 'end' | 'units'>, samples: readonly number[]): KeptDivision {
  let take = 0
  return {
    passages, end, units: units.map(({ samples: all, missing: _, ...unit }) => {
      const speech = samples.slice(take, take += unit.takes).reduce((sum, each) => sum + each, 0)
      return { ...unit, otherSamples: all - speech }
    }),
  }
}

interface KeptRow {
  readonly id: string
  readonly kind: PartKind
  readonly label: string
  readonly about: PartAbout | null
  readonly number: number
  readonly sampleRate: number
  readonly sheet: KeptDivision
  /** Of the takes in order, those that are not made with about how long they will be. */
  readonly samples: readonly number[] | null
  readonly missing: readonly boolean[] | null
  readonly silent: number
}

/** The same by what is kept of the parts of an edition that is up to date, without their scores. */
export async function keptSheet(database: Database, loaded: LoadedEdition): Promise<SheetFile[]> {
  return (await keptSheets(database, loaded))(profileOf(loaded))
}

/** The same for any profile. */
export async function keptSheets(database: Database, loaded: LoadedEdition): Promise<(profile: DeliveryProfile) => Promise<SheetFile[]>> {
  const rows = await database.rows<KeptRow & { readonly included: boolean }>(
    'SELECT p.id, p.kind, p.label, p.about, p.included, row_number() OVER (ORDER BY p.rank)::integer AS number, r.rate AS "sampleRate", m.sheet, k.samples, k.missing, coalesce(k.silent, 0)::integer AS silent '
    + 'FROM parts p JOIN part_summaries m ON m.part_id = p.id CROSS JOIN LATERAL (SELECT (m.facts->>\'sampleRate\')::integer AS rate) r LEFT JOIN LATERAL (SELECT '
    + `array_agg(coalesce(${samplesAtSql('r.rate')}, u.samples)::integer ORDER BY u.place) AS samples, `
    + 'array_agg(t.id IS NULL ORDER BY u.place) AS missing, count(*) FILTER (WHERE t.sample_count = 0) AS silent '
    + 'FROM unnest(m.takes, m.samples) WITH ORDINALITY AS u(take, samples, place) LEFT JOIN takes t ON t.id = u.take) k ON true '
    + 'WHERE p.edition_id = $1 ORDER BY p.rank', [loaded.edition.id])
  const parts: DividedPart[] = []
  for (const { included, ...row } of rows) if (included) parts.push(await keptPart(database, loaded.edition.id, row))
  return async profile => runSheet(parts, profile, await placesOf(database, loaded, profile))
}

async function keptPart(database: Database, editionId: string, { sheet, samples, missing, silent, ...part }: KeptRow): Promise<DividedPart> {
  // Around a take without sound the longest of the rests counts, which only the whole part tells.
  if (silent > 0) {
    const { parts } = await scoreEdition(editionId, part.id)
    if (parts[0] !== undefined) return heardPart(parts[0], part.number, await takeIndex(database).find(takesOfParts(parts)))
  }
  let take = 0
  const units = sheet.units.map((unit): SheetUnit => {
    let all = unit.otherSamples
    let gone = 0
    for (const end = take + unit.takes; take < end; take += 1) {
      all += samples![take]!
      if (missing![take]!) gone += 1
    }
    // Member by member: of a long book there are many thousands.
    return { from: unit.from, count: unit.count, takes: unit.takes, passage: unit.passage, role: unit.role, entryMs: unit.entryMs, sound: unit.sound, samples: all, missing: gone }
  })
  return { ...part, passages: sheet.passages, end: sheet.end, units }
}

/** The passages of a file, from the first that begins in it. */
export async function filePassages(database: Database, loaded: LoadedEdition, key: string): Promise<FilePassage[]> {
  const file = (await keptSheet(database, loaded)).find(each => each.key === key) ?? fail('not-found', 'This file is no longer on the run sheet. Load the page again.')
  return file.spans.flatMap(({ part, units }) => {
    const byPassage = new Map<number, SheetUnit[]>()
    for (const unit of units) addTo(byPassage, unit.passage, unit)
    return [...byPassage].flatMap(([passage, inside]): FilePassage[] => {
      // The end of one that began in the file before is nowhere to begin.
      if (part.units.find(unit => unit.passage === passage) !== inside[0]) return []
      const { id, kind, title, announcement } = part.passages[passage]!
      return announcement !== undefined ? [] : [{ id, partId: part.id, kind, title, durationMs: samplesToMs(inside.reduce((sum, unit) => sum + unit.samples, 0), part.sampleRate) }]
    })
  })
}

/** What is known of places in the script of an edition, as far as the division of a profile asks for it. */
async function placesOf(database: Database, loaded: LoadedEdition, { split }: DeliveryProfile): Promise<SheetPlaces> {
  const { id, manuscriptId } = loaded.edition
  const work = workOf(loaded)
  const [narrator, ...others] = loaded.roles
  const speakers = new Map(others.map(({ id, name, casting }) => [id, { role: name, voice: casting.voice }]))
  const known = { work: workNames(work, loaded.casting.voice, narrator!.name, new Date()), speakers, coverBytes: work.cover?.bytes ?? 0, marks: await marksOf(database, id) }
  if (split.where.by !== 'emptyLines' || manuscriptId === null) return known
  const lines = await database.rows<{ id: string, lines: number }>(
    'SELECT s.id, b.lines FROM passages s JOIN parts p ON p.id = s.part_id JOIN (SELECT place - 1 AS place, (block->>\'emptyLines\')::integer AS lines '
    // OFFSET 0 keeps the blocks from being unfolded more than once.
    + 'FROM manuscripts m, jsonb_array_elements(m.content->\'blocks\') WITH ORDINALITY AS e(block, place) WHERE m.id = $2 AND block ? \'emptyLines\' OFFSET 0) b ON b.place = s.block WHERE p.edition_id = $1', [id, manuscriptId])
  return { ...known, emptyLines: new Map(lines.map(row => [row.id, row.lines])) }
}

/** The marks set by hand in an edition, by the ids of their passages. */
export async function marksOf(database: Database, editionId: string): Promise<Map<string, FileMark>> {
  const rows = await database.rows<{ passageId: string, mark: FileMark }>('SELECT passage_id AS "passageId", mark FROM file_marks WHERE edition_id = $1', [editionId])
  return new Map(rows.map(row => [row.passageId, row.mark]))
}

/** Sets marks, or takes them away. Nothing that is heard changes. */
export async function setMarks(database: Database, editionId: string, changes: FileMarksRequest['marks']): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    await lockEdition(editionId, transaction)
    for (const { passageId, mark } of changes) {
      if (mark === null) await database.rows('DELETE FROM file_marks WHERE edition_id = $1 AND passage_id = $2 RETURNING passage_id', [editionId, passageId], transaction)
      else await database.rows('INSERT INTO file_marks (edition_id, passage_id, mark) VALUES ($1, $2, $3) ON CONFLICT (edition_id, passage_id) DO UPDATE SET mark = $3 RETURNING passage_id', [editionId, passageId, mark], transaction)
    }
    await postEvent(database, editionId, { kind: 'delivery' }, transaction)
  })
}

/** Takes all marks of an edition away. */
export async function clearMarks(database: Database, editionId: string): Promise<void> {
  await database.rows('DELETE FROM file_marks WHERE edition_id = $1 RETURNING passage_id', [editionId])
  await postEvent(database, editionId, { kind: 'delivery' })
}

/** Divides an edition into files by a rule of its own, or by its profile's. Nothing that is heard changes. */
export async function setSplit(database: Database, editionId: string, split: FileSplit | null): Promise<void> {
  await database.sequelize.transaction(async transaction => {
    await (await lockEdition(editionId, transaction)).update({ split }, { transaction })
    await postEvent(database, editionId, { kind: 'delivery' }, transaction)
  })
}
