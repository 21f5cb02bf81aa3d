import { Op, type InferCreationAttributes } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { msToSamples, samplesToMs } from '#core/audio/pcm'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profiles, type ProfileName } from '#core/delivery/profiles'
import { fail, type Problem } from '#core/problem'
import { fileFingerprint, runSheet, tagsFor, type DeliveredWork, type RunSheetFile, type RunSheetPart, type SheetPart } from '#core/runsheet/run-sheet'
import { trackRateOf } from '#core/score/cast'
import type { CastScore } from '#core/score/request'
import { takesOf, type OpenReference } from '#core/takes/choose'
import type { DeliveryDesk, DeliveryProgress, DeliveryView, FileDamage, RunSheetRow } from '#shared/api'
import type { TakeIndex } from '#takes/take'
import type { Database } from './database'
import { postEvent } from './events'
import { DeliveryFileRow, DeliveryOrderRow, DeliveryRow } from './models'
import type { LoadedEdition } from './editions'
import { referencesOf, type ScoredEdition } from './score'
import { summariesOf, type SummarisedPart } from './summaries'

export function profileOf({ edition }: Pick<LoadedEdition, 'edition'>): DeliveryProfile {
  const name: ProfileName = edition.profile
  return { ...profiles[name], namePattern: edition.namePattern }
}

export function workOf({ production, edition }: Pick<LoadedEdition, 'edition' | 'production'>): DeliveredWork {
  return { title: production.title, author: production.author, language: edition.language }
}

/** The files that a delivery made now would have. */
export function sheetOf(scored: ScoredEdition): RunSheetFile[] {
  const parts = scored.parts
    .map((part, index) => ({ part, number: index + 1 }))
    .filter(({ part }) => part.row.included)
    .map(({ part, number }) => ({ id: part.row.id, number, label: part.row.label, isSpoken: part.score.utterances.length > 0, score: part.score, references: referencesOf(part) }))
  return runSheet(parts, profileOf(scored))
}

/** A part of the run sheet as it is kept. */
type KeptSheetPart = SheetPart & SummarisedPart

/** The same by what is kept of the parts, without their scores. */
function keptSheet(loaded: LoadedEdition, parts: readonly SummarisedPart[]): RunSheetFile<KeptSheetPart>[] {
  const numbered = parts.map((part, index): KeptSheetPart => ({ id: part.summary.id, number: index + 1, label: part.summary.label, isSpoken: part.summary.utterances > 0, ...part }))
  return runSheet(numbered.filter(({ summary }) => summary.included), profileOf(loaded))
}

/** Deliveries that are listed, the newest ones. */
const mostDeliveries = 50

type Damages = ReadonlyMap<DeliveryFileRow, FileDamage | null>

/** Says what has happened to a delivered file on the disk. */
type DamageOf = (deliveryId: string, file: DeliveryFileRow) => Promise<FileDamage | null>

/** The run sheet with the state of each file, and the deliveries made so far, newest first. */
export async function deliveryDesk(database: Database, loaded: LoadedEdition, encoder: string, damageOf: DamageOf = () => Promise.resolve(null)): Promise<DeliveryDesk> {
  const { id: editionId, namePattern, profile } = loaded.edition
  const sheet = keptSheet(loaded, (await summariesOf(database, [editionId])).get(editionId)!)
  const rows = await DeliveryRow.findAll({ where: { editionId }, order: [['number', 'DESC']], limit: mostDeliveries })
  const files = await DeliveryFileRow.findAll({ where: { deliveryId: rows.map(row => row.id) }, attributes: { exclude: ['sentences'] }, order: [['number', 'ASC']] })
  const current = new Map(sheet.map(file => [file.part.id, fileFingerprint(file.part.facts.sound, tagsFor(file, sheet.length, workOf(loaded)), profileOf(loaded), encoder)]))
  const damages = new Map<DeliveryFileRow, FileDamage | null>()
  const isDone = new Set(rows.filter(row => row.state === 'done').map(row => row.id))
  for (const file of files) damages.set(file, isDone.has(file.deliveryId) ? await damageOf(file.deliveryId, file) : null)
  const deliveries = rows.map(row => viewOf(row, files.filter(file => file.deliveryId === row.id), current, damages))
  const newest = new Map<string, DeliveryFileRow>()
  for (const row of rows) {
    for (const file of files) {
      if (file.deliveryId === row.id && file.partId !== null && !newest.has(file.partId)) newest.set(file.partId, file)
    }
  }
  return { rows: sheet.map(file => sheetRow(file, profileOf(loaded), newest.get(file.part.id), current.get(file.part.id)!, damages)), deliveries, namePattern, profile }
}

function viewOf(row: DeliveryRow, files: readonly DeliveryFileRow[], current: ReadonlyMap<string, string>, damages: Damages): DeliveryView {
  return {
    id: row.id, number: row.number, state: row.state, createdAt: row.createdAt.toISOString(), fileCount: row.fileCount, partial: row.partIds !== null, problem: row.problem,
    files: files.map(file => ({
      number: file.number, name: file.name, title: file.title, durationMs: file.durationMs, bytes: file.bytes,
      stale: file.partId === null || current.get(file.partId) !== file.fingerprint, levels: file.levels, findings: file.findings, damage: damages.get(file) ?? null,
    })),
  }
}

function sheetRow(file: RunSheetFile<KeptSheetPart>, profile: DeliveryProfile, delivered: DeliveryFileRow | undefined, current: string, damages: Damages): RunSheetRow {
  const { samples, facts: { sampleRate }, summary: { missing } } = file.part
  const durationMs = samplesToMs(samples + msToSamples(profile.headMs, sampleRate) + msToSamples(profile.tailMs, sampleRate), sampleRate)
  const settled = delivered === undefined ? 'ready' : delivered.fingerprint !== current ? 'stale' : (damages.get(delivered) ?? null) === null ? 'delivered' : 'damaged'
  return {
    number: file.number, name: file.name, title: file.title, partId: file.part.id,
    durationMs, exact: missing === 0, bytes: Math.round(durationMs * profile.bitRateKbps / 8), missing,
    state: missing > 0 && delivered === undefined ? 'notRead' : settled,
    levels: delivered?.levels ?? null, findings: delivered?.findings ?? null,
  }
}

/** Which files of a run sheet are made: all of them, those of some parts, or those in which nothing is missing. */
export type DeliveryChoice = 'all' | 'ready' | readonly string[]

/**
 * Orders a delivery of an edition as it is now: its files, what is heard in each, names and tags stay as they are at this moment. Throws a problem when something in it is not
 * read yet, nothing makes a file, or one is running.
 */
export async function startDelivery(database: Database, index: TakeIndex, scored: ScoredEdition, choice: DeliveryChoice = 'all'): Promise<string> {
  const editionId = scored.edition.id
  const whole = sheetOf(scored)
  if (whole.length === 0) fail('nothing-to-deliver', 'No part makes a file. Take a part in again on the Script page.')
  const missing = await missingByFile(index, whole)
  const sheet = whole.filter(file => choice === 'all' || (choice === 'ready' ? missing.get(file) === 0 : choice.includes(file.part.id)))
  if (sheet.length === 0) fail('nothing-to-deliver', choice === 'ready' ? 'No file is ready: in each of them something is not read yet. Read it on the Reading page.' : 'The chosen parts make no file. Choose others.')
  const waiting = sheet.filter(file => missing.get(file)! > 0)
  if (waiting.length > 0) {
    const names = waiting.slice(0, namedFiles).map(file => `${file.title} (${missing.get(file)})`).join(', ')
    const sum = waiting.reduce((total, file) => total + missing.get(file)!, 0)
    fail('not-read', `${sum} ${sum === 1 ? 'sentence is' : 'sentences are'} not read yet, in ${names}${waiting.length > namedFiles ? ` and ${waiting.length - namedFiles} more` : ''}. Read them on the Reading page, or make the files that are ready.`)
  }
  const deliveryId = uuidv7()
  await database.sequelize.transaction(async transaction => {
    await database.rows('SELECT pg_advisory_xact_lock(hashtext($1))::text AS locked', [editionId], transaction)
    const running = await DeliveryRow.findOne({ where: { editionId, state: 'running' }, transaction })
    if (running !== null) fail('delivery-running', 'A delivery of this production is being made. Wait for it, or stop it first.')
    const last = await DeliveryRow.max<number | null, DeliveryRow>('number', { where: { editionId }, transaction })
    await DeliveryRow.create({
      id: deliveryId, editionId, number: (last ?? 0) + 1, profile: profileOf(scored), ...workOf(scored), fileCount: sheet.length, sheetCount: whole.length,
      trackRate: trackRateOf(scored.context, scored.context.engines), partIds: sheet.length === whole.length ? null : sheet.map(file => file.part.id),
    }, { transaction })
    // One by one: each can be as long as a book.
    for (const { number, name, title, parts, part } of sheet) await DeliveryOrderRow.create({ deliveryId, number, partId: part.id, name, title, parts, heard: heardIn(part) }, { transaction })
    await postEvent(database, editionId, { kind: 'delivery', deliveryId }, transaction)
  })
  return deliveryId
}

/** Parts that a problem names before it only counts. */
const namedFiles = 8

/** What is heard of a part, without what only its making needed. */
export interface HeardPart {
  readonly score: CastScore
  readonly references: readonly OpenReference[]
}

function heardIn({ score, references }: RunSheetPart): HeardPart {
  return { score: { ...score, utterances: score.utterances.map(utterance => ({ ...utterance, segments: [], words: [] })) }, references }
}

/** How many takes of each of these files are missing. */
async function missingByFile(index: TakeIndex, sheet: readonly RunSheetFile[]): Promise<Map<RunSheetFile, number>> {
  const takes = await index.find([...new Set(sheet.flatMap(file => takesOf(file.part.references)))])
  return new Map(sheet.map(file => [file, file.part.references.filter(({ take }) => !takes.has(take)).length]))
}

/** The files that a delivery is to make, as they were ordered. */
export async function orderedFiles(deliveryId: string): Promise<RunSheetFile[]> {
  const rows = await DeliveryOrderRow.findAll({ where: { deliveryId }, order: [['number', 'ASC']] })
  return rows.map(({ number, name, title, parts, partId, heard }) => ({ number, name, title, parts, part: { id: partId, number: parts[0]!, label: title, isSpoken: true, ...heard } }))
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

/** The gain (dB) of the newest file that was made of a part. */
export async function gainOf(partId: string): Promise<number | null> {
  const row = await DeliveryFileRow.findOne({ where: { partId, levels: { [Op.ne]: null } }, attributes: ['levels'], order: [['deliveryId', 'DESC']] })
  return row?.levels?.gainDb ?? null
}

/** Throws a problem when there is no such delivery. */
export async function progressOf(deliveryId: string): Promise<DeliveryProgress> {
  const { id, state, fileCount, problem } = await findDelivery(deliveryId)
  return { id, state, fileCount, problem, made: await DeliveryFileRow.count({ where: { deliveryId } }) }
}

async function findDelivery(deliveryId: string): Promise<DeliveryRow> {
  return await DeliveryRow.findByPk(deliveryId) ?? fail('not-found', 'There is no such delivery. It may have been removed.')
}

/** Throws a problem when there is no such delivery or it is not finished. */
export async function finishedDelivery(deliveryId: string): Promise<{ delivery: DeliveryRow, files: DeliveryFileRow[] }> {
  const delivery = await findDelivery(deliveryId)
  if (delivery.state !== 'done') fail('delivery-not-done', 'This delivery is not finished.')
  return { delivery, files: await DeliveryFileRow.findAll({ where: { deliveryId }, order: [['number', 'ASC']] }) }
}
