import type { InferCreationAttributes } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { samplesToMs } from '#core/audio/pcm'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import { bytesPerSecond, coverBytesIn } from '#core/delivery/formats'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profiles } from '#core/delivery/profiles'
import { fail, type Problem } from '#core/problem'
import { levelSample } from '#core/runsheet/level-sample'
import { fingerprinting, heardFile, missingIn, soundOf, tagsFor, type HeardPart, type RunSheetFile, type SheetFile } from '#core/runsheet/run-sheet'
import { writtenFrom, type DividedPart, type FileSpan } from '#core/runsheet/split'
import { trackRateOf } from '#core/score/cast'
import { doubledTitles } from '#core/script/announcements'
import type { CastScore } from '#core/score/request'
import type { DeliveryDesk, DeliveryProgress, DeliveryView, FileDamage, RunSheetRow } from '#shared/delivery'
import type { FileStorage } from '#takes/storage'
import type { TakeIndex } from '#takes/take'
import { announcementsOf } from './announcements'
import type { Database } from './database'
import { postEvent } from './events'
import { ownProfiles } from './delivery-profiles'
import { deliveryFolder } from './folders'
import { DeliveryFileRow, DeliveryOrderRow, DeliveryRow } from './models'
import type { LoadedEdition } from './editions'
import { keptSheets, marksOf, profileOf, sheetOf, workOf } from './run-sheet'
import { takesOfParts, type ScoredEdition } from './score'

/** Deliveries that are listed, the newest ones. */
const mostDeliveries = 50

type Damages = ReadonlyMap<DeliveryFileRow, FileDamage | null>

/** Says what has happened to a delivered file on the disk. */
type DamageOf = (deliveryId: string, file: DeliveryFileRow) => FileDamage | null

/** The files of the newest finished deliveries of an edition, as they were noted. */
export async function notedFiles(editionId: string): Promise<Pick<DeliveryFileRow, 'deliveryId' | 'name' | 'bytes' | 'sha256'>[]> {
  const rows = await DeliveryRow.findAll({ where: { editionId }, attributes: ['id', 'state'], order: [['number', 'DESC']], limit: mostDeliveries })
  return DeliveryFileRow.findAll({ where: { deliveryId: rows.filter(row => row.state === 'done').map(row => row.id) }, attributes: ['deliveryId', 'name', 'bytes', 'sha256'] })
}

/** The run sheet with the state of each file, and the deliveries made so far, newest first. */
export async function deliveryDesk(database: Database, loaded: LoadedEdition, encoder: string, damageOf: DamageOf = () => null): Promise<DeliveryDesk> {
  const { id: editionId, namePattern, nameRules, profile, profileId, split, announcements } = loaded.edition
  const { details, cover } = workOf(loaded)
  const sheets = await keptSheets(database, loaded)
  const ownProfile = profileOf(loaded)
  const sheet = await sheets(ownProfile)
  const parts = [...new Set(sheet.flatMap(file => file.spans.map(span => span.part)))]
  const rows = await DeliveryRow.findAll({ where: { editionId }, order: [['number', 'DESC']], limit: mostDeliveries })
  const files = await DeliveryFileRow.findAll({ where: { deliveryId: rows.map(row => row.id) }, attributes: { exclude: ['sentences'] }, order: [['number', 'ASC']] })
  const madeKeys = new Set(files.map(file => file.key))
  // Of what was never delivered nobody asks whether it has changed.
  const currentOf = (profile: DeliveryProfile, made: readonly SheetFile[]): ReadonlyMap<string, string> => {
    const fingerprint = fingerprinting(profile, encoder)
    return new Map(made.filter(file => madeKeys.has(file.key)).map(file => [file.key, fingerprint(soundOf(file), tagsFor(file, made.length, workOf(loaded)))]))
  }
  const current = currentOf(ownProfile, sheet)
  const currentBy = new Map([[ownProfile.name, current]])
  for (const other of await otherProfiles(rows, ownProfile.name)) {
    const profile = profileOf(loaded, other)
    currentBy.set(profile.name, currentOf(profile, await sheets(profile)))
  }
  const damages = new Map<DeliveryFileRow, FileDamage | null>()
  const isDone = new Set(rows.filter(row => row.state === 'done').map(row => row.id))
  for (const file of files) damages.set(file, isDone.has(file.deliveryId) ? damageOf(file.deliveryId, file) : null)
  const deliveries = rows.map(row => viewOf(row, files.filter(file => file.deliveryId === row.id), currentBy.get(row.profile.name) ?? new Map(), damages))
  const newest = new Map<string, DeliveryFileRow>()
  // Made with the same profile, as far as there are such.
  for (const row of rows.toSorted((a, b) => Number(b.profile.name === ownProfile.name) - Number(a.profile.name === ownProfile.name))) {
    for (const file of files) {
      if (file.deliveryId === row.id && file.key !== null && !newest.has(file.key)) newest.set(file.key, file)
    }
  }
  return {
    rows: sheet.map(file => sheetRow(file, ownProfile, coverBytesIn(ownProfile, cover?.bytes ?? 0), newest.get(file.key), current.get(file.key) ?? null, damages)), deliveries, profile: profileId ?? profile, extras: ownProfile.extras,
    namePattern: ownProfile.namePattern, nameRules: ownProfile.nameRules, areOwnNames: (namePattern ?? nameRules ?? null) !== null, split: ownProfile.split, isOwnSplit: (split ?? null) !== null, details, cover, levels: levelsIn(parts),
    announcements: announcementsOf(loaded), isOwnAnnouncements: (announcements ?? null) !== null, doubled: doubledTitles(parts), marks: (await marksOf(database, editionId)).size,
  }
}

/** Other profiles that deliveries are judged by; files that were made with still others count as stale. */
const mostOthers = 4

/** The profiles that the newest deliveries were made with besides one, as they are now, and as far as they are still there. */
async function otherProfiles(rows: readonly DeliveryRow[], name: string): Promise<DeliveryProfile[]> {
  const others = [...new Set(rows.map(row => row.profile.name))].filter(other => other !== name)
  if (others.length === 0) return []
  const known = new Map([...Object.values(profiles), ...(await ownProfiles()).map(({ profile }) => profile)].map(profile => [profile.name, profile]))
  return others.flatMap(other => known.get(other) ?? []).slice(0, mostOthers)
}

function levelsIn(parts: readonly DividedPart[]): number[] {
  return [...new Set(parts.flatMap(part => part.passages.flatMap(({ kind, level }) => kind === 'heading' && level !== null ? [level] : [])))].sort((a, b) => a - b)
}

function viewOf(row: DeliveryRow, files: readonly DeliveryFileRow[], current: ReadonlyMap<string, string>, damages: Damages): DeliveryView {
  return {
    id: row.id, number: row.number, profile: row.profile.name, state: row.state, createdAt: row.createdAt.toISOString(), fileCount: row.fileCount, partial: row.fileCount < row.sheetCount, problem: row.problem, concession: row.concession,
    files: files.map(file => ({
      number: file.number, name: file.name, title: file.title, durationMs: file.durationMs, bytes: file.bytes,
      stale: file.key === null || current.get(file.key) !== file.fingerprint, levels: file.levels, findings: file.findings, damage: damages.get(file) ?? null,
    })),
  }
}

function sheetRow(file: SheetFile, profile: DeliveryProfile, coverBytes: number, delivered: DeliveryFileRow | undefined, current: string | null, damages: Damages): RunSheetRow {
  const missing = missingIn(file)
  const [{ part, units: [first] }] = file.spans as [FileSpan]
  const durationMs = samplesToMs(file.sampleCount, part.sampleRate)
  const settled = delivered === undefined ? 'ready' : delivered.fingerprint !== current ? 'stale' : (damages.get(delivered) ?? null) === null ? 'delivered' : 'damaged'
  return {
    key: file.key, number: file.number, label: file.label, name: file.name, title: file.title, partId: part.id, parts: partsLabel(file.parts),
    passageId: placeOf(part, first!.passage), canGoOn: file.canGoOn,
    passages: file.spans.reduce((sum, span) => sum + new Set(span.units.map(unit => unit.passage)).size, 0),
    durationMs, exact: missing === 0, bytes: settled === 'delivered' ? delivered!.bytes : Math.round(durationMs / 1000 * bytesPerSecond(profile)) + coverBytes, missing,
    state: missing > 0 && delivered === undefined ? 'notRead' : settled,
    levels: settled === 'delivered' ? delivered!.levels : null, findings: settled === 'delivered' ? delivered!.findings : null,
  }
}

/** The passage of the script that is said at a place, or announced there. */
function placeOf(part: DividedPart, place: number): string {
  const { passages } = part
  return (writtenFrom(part, place) ?? passages.findLast(({ announcement }) => announcement === undefined) ?? passages[place]!).id
}

/** Numbers of parts that follow one another: *3*, *3–7*. */
function partsLabel(parts: readonly number[]): string {
  const [first, last] = [parts[0]!, parts.at(-1)!]
  return first === last ? String(first) : `${first}–${last}`
}

/** Which files of a run sheet are made: all of them, some by their keys, or those in which nothing is missing. */
export type DeliveryChoice = 'all' | 'ready' | readonly string[]

/** Orders a delivery of an edition as it is now. Gives its id. Throws the problems of `startDeliveries`. */
export async function startDelivery(database: Database, index: TakeIndex, scored: ScoredEdition, choice: DeliveryChoice = 'all'): Promise<string> {
  const [deliveryId] = await startDeliveries(database, index, scored, choice)
  return deliveryId!
}

/**
 * Orders a delivery of an edition as it is now, and one for each of some other profiles: files, what is heard in each, names and tags stay as they are at this moment. Gives their ids.
 * Throws a problem when something in them is not read yet, nothing makes a file, or one is running.
 */
export async function startDeliveries(database: Database, index: TakeIndex, scored: ScoredEdition, choice: DeliveryChoice, others: readonly DeliveryProfile[] = []): Promise<string[]> {
  if (others.length > 0 && typeof choice !== 'string') fail('files-of-one-profile', 'Files that are chosen one by one are made for one profile. Choose none of them, or no other profile.')
  const editionId = scored.edition.id
  const takes = await index.find(takesOfParts(scored.parts))
  const orders: { readonly deliveryId: string, readonly profile: DeliveryProfile, readonly whole: readonly SheetFile<HeardPart>[], readonly sheet: readonly SheetFile<HeardPart>[] }[] = []
  for (const profile of [profileOf(scored), ...others.map(other => profileOf(scored, other))]) {
    const whole = await sheetOf(database, scored, takes, profile)
    orders.push({ deliveryId: uuidv7(), profile, whole, sheet: chosenOf(whole, choice) })
  }
  await database.sequelize.transaction(async transaction => {
    await database.rows('SELECT pg_advisory_xact_lock(hashtext($1))::text AS locked', [editionId], transaction)
    const running = await DeliveryRow.findOne({ where: { editionId, state: 'running' }, transaction })
    if (running !== null) fail('delivery-running', 'A delivery of this production is being made. Wait for it, or stop it first.')
    let number = await DeliveryRow.max<number | null, DeliveryRow>('number', { where: { editionId }, transaction }) ?? 0
    for (const { deliveryId, profile, whole, sheet } of orders) {
      number += 1
      await DeliveryRow.create({
        id: deliveryId, editionId, number, profile, ...workOf(scored), fileCount: sheet.length, sheetCount: whole.length,
        trackRate: trackRateOf(scored.context, scored.context.engines), levelSample: levelSample(whole),
      }, { transaction })
      // One by one: each can be as long as a book.
      for (const file of sheet) {
        const { key, number: place, name, title, parts, sound, chapters, own, score, references } = heardFile(file, profile)
        await DeliveryOrderRow.create({ deliveryId, key, number: place, name, title, parts: [...parts], sound, chapters, heard: { own, score: withoutWriting(score), references } }, { transaction })
      }
      await postEvent(database, editionId, { kind: 'delivery', deliveryId }, transaction)
    }
  })
  return orders.map(({ deliveryId }) => deliveryId)
}

/** The files of a run sheet that are chosen. Throws a problem where there are none, or something in them is not read yet. */
function chosenOf(whole: readonly SheetFile<HeardPart>[], choice: DeliveryChoice): SheetFile<HeardPart>[] {
  if (whole.length === 0) fail('nothing-to-deliver', 'No part makes a file. Take a part in again on the Script page.')
  const missing = new Map(whole.map(file => [file, missingIn(file)]))
  const sheet = whole.filter(file => choice === 'all' || (choice === 'ready' ? missing.get(file) === 0 : choice.includes(file.key)))
  if (sheet.length === 0) fail('nothing-to-deliver', choice === 'ready' ? 'No file is ready: in each of them something is not read yet. Read it on the Reading page.' : 'The chosen files are no longer on the run sheet. Load the page again, and choose others.')
  const waiting = sheet.filter(file => missing.get(file)! > 0)
  if (waiting.length > 0) {
    const names = waiting.slice(0, namedFiles).map(file => `${file.title} (${missing.get(file)})`).join(', ')
    const sum = waiting.reduce((total, file) => total + missing.get(file)!, 0)
    fail('not-read', `${sum} ${sum === 1 ? 'sentence is' : 'sentences are'} not read yet, in ${names}${waiting.length > namedFiles ? ` and ${waiting.length - namedFiles} more` : ''}. Read them on the Reading page, or make the files that are ready.`)
  }
  return sheet
}

/** Files that a problem names before it only counts. */
const namedFiles = 8

/** What is heard of a file, without what only its making needed; `own` is not known of orders of an earlier version. */
export type HeardFile = Pick<RunSheetFile, 'score' | 'references'> & Partial<Pick<RunSheetFile, 'own'>>

function withoutWriting(score: CastScore): CastScore {
  return { ...score, utterances: score.utterances.map(utterance => ({ ...utterance, segments: [], words: [] })) }
}

/** The files that a delivery is to make, as they were ordered. */
export async function orderedFiles(deliveryId: string): Promise<RunSheetFile[]> {
  const rows = await DeliveryOrderRow.findAll({ where: { deliveryId }, order: [['number', 'ASC']] })
  return rows.map(({ key, number, name, title, parts, sound, chapters, heard }) => ({ key, number, name, title, parts, sound, chapters, own: {}, ...heard }))
}

/** The deliveries that this worker was making when it ended. */
export async function unfinishedDeliveries(worker: string): Promise<string[]> {
  return (await DeliveryRow.findAll({ where: { worker, state: 'running' }, attributes: ['id'] })).map(row => row.id)
}

export type NewDeliveryFile = Omit<InferCreationAttributes<DeliveryFileRow>, 'deliveryId'>

export async function noteFile(database: Database, delivery: DeliveryRow, file: NewDeliveryFile): Promise<void> {
  await DeliveryFileRow.upsert({ ...file, deliveryId: delivery.id })
  await postEvent(database, delivery.editionId, { kind: 'delivery', deliveryId: delivery.id })
}

/** Notes faults of files that only showed when all of them were there. */
export async function noteFindings(deliveryId: string, files: readonly { readonly number: number, readonly findings: readonly Finding[] }[]): Promise<void> {
  for (const { number, findings } of files) await DeliveryFileRow.update({ findings: [...findings] }, { where: { deliveryId, number } })
}

export async function endDelivery(database: Database, delivery: DeliveryRow, state: 'done' | 'stopped' | 'failed', problem: Problem | null = null): Promise<void> {
  await DeliveryRow.update({ state, problem, endedAt: new Date() }, { where: { id: delivery.id, state: 'running' } })
  await DeliveryOrderRow.destroy({ where: { deliveryId: delivery.id } })
  await postEvent(database, delivery.editionId, { kind: 'delivery', deliveryId: delivery.id })
}

/** The newest finished file with a fingerprint, if its levels are known and it was judged. */
export async function finishedFile(fingerprint: string): Promise<{ deliveryId: string, name: string, sha256: string, levels: FileLevels, findings: readonly Finding[] } | null> {
  const row = await DeliveryFileRow.findOne({ where: { fingerprint }, order: [['deliveryId', 'DESC']] })
  if (row === null || row.levels === null || row.findings === null) return null
  return { deliveryId: row.deliveryId, name: row.name, sha256: row.sha256, levels: row.levels, findings: row.findings }
}

/** Whether a delivery `d` was brought to the level of a profile (`levelOf`). */
const sameLevelSql = 'd.profile->\'target\' = $2::jsonb AND d.profile->\'dualMono\' = $3::jsonb'
const levelOf = ({ target, dualMono }: DeliveryProfile): string[] => [JSON.stringify(target), JSON.stringify(dualMono)]

/** The gain (dB) of the newest file that began at the same place and was brought to the same level. */
export async function gainOf(database: Database, key: string, profile: DeliveryProfile): Promise<number | null> {
  const [row] = await database.rows<{ gain: number }>(
    'SELECT (f.levels->>\'gainDb\')::double precision AS gain FROM delivery_files f JOIN deliveries d ON d.id = f.delivery_id '
    + `WHERE f.key = $1 AND f.levels IS NOT NULL AND ${sameLevelSql} ORDER BY f.delivery_id DESC LIMIT 1`, [key, ...levelOf(profile)])
  return row?.gain ?? null
}

/** The gain (dB) that most files of the newest finished delivery of an edition have that was brought to the same level. */
export async function gainOfEdition(database: Database, editionId: string, profile: DeliveryProfile): Promise<number | null> {
  const [row] = await database.rows<{ gain: number }>(
    'SELECT (f.levels->>\'gainDb\')::double precision AS gain FROM delivery_files f WHERE f.levels IS NOT NULL AND f.delivery_id = '
    + `(SELECT d.id FROM deliveries d WHERE d.edition_id = $1 AND d.state = 'done' AND ${sameLevelSql} ORDER BY d.number DESC LIMIT 1) GROUP BY 1 ORDER BY count(*) DESC, 1 LIMIT 1`, [editionId, ...levelOf(profile)])
  return row?.gain ?? null
}

/** Throws a problem when there is no such delivery. */
export async function progressOf(deliveryId: string): Promise<DeliveryProgress> {
  const { id, state, fileCount, problem } = await findDelivery(deliveryId)
  return { id, state, fileCount, problem, made: await DeliveryFileRow.count({ where: { deliveryId } }) }
}

async function findDelivery(deliveryId: string): Promise<DeliveryRow> {
  return await DeliveryRow.findByPk(deliveryId) ?? fail('not-found', 'There is no such delivery. It may have been removed.')
}

/** Drops a delivery with its files, when it is there and not being made. Gives the id of its edition, or null. */
export async function dropDelivery(database: Database, storage: FileStorage, deliveryId: string): Promise<string | null> {
  const [gone] = await database.rows<{ editionId: string }>('DELETE FROM deliveries WHERE id = $1 AND state <> \'running\' RETURNING edition_id AS "editionId"', [deliveryId])
  if (gone === undefined) return null
  for (const file of await storage.list(deliveryFolder(deliveryId))) await storage.remove(file.name)
  return gone.editionId
}

/** A delivery with its files; with what is said in them where that is asked for. Throws a problem when there is no such delivery or it is not finished. */
export async function finishedDelivery(deliveryId: string, { withSentences = false } = {}): Promise<{ delivery: DeliveryRow, files: DeliveryFileRow[] }> {
  const delivery = await findDelivery(deliveryId)
  if (delivery.state !== 'done') fail('delivery-not-done', 'This delivery is not finished.')
  return { delivery, files: await DeliveryFileRow.findAll({ where: { deliveryId }, ...(withSentences ? {} : { attributes: { exclude: ['sentences'] } }), order: [['number', 'ASC']] }) }
}
