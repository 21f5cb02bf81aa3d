import { execFileSync } from 'node:child_process'
import { mkdtemp, readdir, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { noDetails } from '#core/delivery/details'
import { profiles } from '#core/delivery/profiles'
import { plainContent } from '#core/script/content'
import { fileFingerprint, heardFile, tagsFor, type RunSheetFile } from '#core/runsheet/run-sheet'
import { defaultSplit } from '#core/delivery/file-split'
import { changeEdition } from '../../store/editions'
import { applyOperations } from '../../store/operations'
import { deliveryDesk, endDelivery, finishedDelivery, noteFile, orderedFiles, startDeliveries, startDelivery } from '../../store/deliveries'
import { addProfile, changeProfile, profileBy } from '../../store/delivery-profiles'
import { coverFile, deliveryFile } from '../../store/folders'
import { DeliveryRow } from '../../store/models'
import { filePassages, profileOf, setMarks, setSplit, sheetOf, workOf } from '../../store/run-sheet'
import { bringUpToDate } from '../../store/summaries'
import { scoreEdition, takesOfParts, type ScoredEdition } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import { tidy, tidyMs, type Leftovers } from '../../store/tidy'
import type { TakeIndex } from '../../takes/take'
import { ownDatabase, part, production } from '../support/database'
import { newTake, packsIn, takeRecord } from '../support/takes'
import { encoderName } from '../../press/ffmpeg'
import type { RunSheetRow } from '#shared/delivery'
import { FolderStorage } from '../../takes/folder-storage'
import { storeTakes } from '../../takes/store-takes'
import { openEngines } from '../../voices/engines'
import { deliverJob } from '../../worker/deliver'
import { probe } from '../support/audio'
import { programs } from '../support/paths'

const { database } = ownDatabase()
/** What a test has opened is closed, also when it fails. */
let closeLater = (): Promise<unknown> => Promise.resolve()
afterEach(async () => {
  await closeLater()
  closeLater = () => Promise.resolve()
})
let index: TakeIndex
beforeAll(() => { index = takeIndex(database()) })

async function readAll(scored: ScoredEdition): Promise<void> {
  const keys = scored.parts.flatMap(each => each.score.utterances.map(utterance => utterance.key))
  await index.add(keys.map(key => takeRecord(key)))
}

/** The files that would be made now. */
async function sheetNow(scored: ScoredEdition): Promise<RunSheetFile[]> {
  const sheet = await sheetOf(database(), scored, await index.find(takesOfParts(scored.parts)))
  return sheet.map(file => heardFile(file, profileOf(scored)))
}

/** What a worker notes of a file that it has made. */
async function noteMade(delivery: DeliveryRow, file: RunSheetFile, fileCount: number, scored: ScoredEdition): Promise<void> {
  await noteFile(database(), delivery, {
    number: file.number, key: file.key, name: file.name, title: file.title, durationMs: 1, sampleCount: 1, bytes: 1, sha256: 'x', parts: [1], sentences: [], levels: null, findings: null,
    fingerprint: fileFingerprint(file.sound, tagsFor(file, fileCount, workOf(scored)), delivery.profile, 'encoder'),
  })
}

/** What a worker notes while it makes the files. */
async function makeFiles(scored: ScoredEdition): Promise<DeliveryRow> {
  const delivery = await DeliveryRow.findByPk(await startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id)), { rejectOnEmpty: true })
  const sheet = await sheetNow(scored)
  for (const file of sheet) await noteMade(delivery, file, sheet.length, scored)
  await endDelivery(database(), delivery, 'done')
  return delivery
}

const desk = async (id: string) => deliveryDesk(database(), await bringUpToDate(database(), id), 'encoder')

describe('a delivery', () => {
  test('is refused while something is not read', async () => {
    const id = await production(database(), part('A', 'Not read yet.'))
    await expect(startDelivery(database(), takeIndex(database()), await scoreEdition(id))).rejects.toMatchObject({ problem: { code: 'not-read' } })
    expect((await desk(id)).rows.map(row => [row.state, row.missing])).toEqual([['notRead', 2]])
  })

  test('of chosen files, or of all that are ready, keeps numbers and names of the whole; what is missing is named', async () => {
    const id = await production(database(), part('One', 'Ready in one.'), part('Two', 'Missing in two.'), part('Three', 'Ready in three.'))
    const scored = await scoreEdition(id)
    await readAll({ ...scored, parts: [scored.parts[0]!, scored.parts[2]!] })
    await expect(startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id))).rejects.toMatchObject({ problem: { code: 'not-read', message: expect.stringContaining('not read yet, in Two (2)') as string } })
    await expect(startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id), [`${scored.parts[1]!.row.id}.0`])).rejects.toMatchObject({ problem: { code: 'not-read' } })
    const made = async (choice: 'ready' | string[]): Promise<unknown> => {
      const delivery = await DeliveryRow.findByPk(await startDelivery(database(), takeIndex(database()), await scoreEdition(id), choice), { rejectOnEmpty: true })
      const files = await orderedFiles(delivery.id)
      await endDelivery(database(), delivery, 'done')
      return [files.map(file => file.name), delivery.sheetCount, delivery.fileCount]
    }
    expect(await made('ready')).toEqual([['01-one.mp3', '03-three.mp3'], 3, 2])
    expect(await made([`${scored.parts[2]!.row.id}.0`])).toEqual([['03-three.mp3'], 3, 1])
    expect((await desk(id)).deliveries.map(delivery => delivery.partial)).toEqual([true, true])
    await expect(startDelivery(database(), takeIndex(database()), await scoreEdition(scored.edition.id), ['00000000-0000-7000-8000-000000000000.0'])).rejects.toMatchObject({ problem: { code: 'nothing-to-deliver' } })
  })

  test('is what was ordered: what is changed before a worker begins counts for the next one', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'quill-ordered-'))
    const library = { index: takeIndex(database()), packs: packsIn(folder) }
    const id = await production(database(), part('One', 'As it was ordered.'))
    const scored = await scoreEdition(id)
    await storeTakes(library, takesOfParts(scored.parts).map(key => newTake(key, new Int16Array(2205))))
    const [before] = await sheetNow(scored)
    const delivery = await DeliveryRow.findByPk(await startDelivery(database(), library.index, scored), { rejectOnEmpty: true })
    const { row, passages } = scored.parts[0]!
    await applyOperations(database(), id, 'window-1', [
      { op: 'setContent', passageId: passages[1]!.id, revision: 1, content: plainContent('Changed before it was made.') }, { op: 'renamePart', partId: row.id, revision: 1, label: 'Renamed' },
    ])
    await changeEdition(database(), id, { title: 'Another title', casting: { ...scored.casting, gainDb: -9 } })

    const engines = openEngines({ programs, parallel: 1 })
    const storage = new FolderStorage(folder)
    // Of a worker that was killed.
    const left = await storage.draft(deliveryFile(delivery.id, 'playlist.m3u8'))
    await writeFile(left.path, '#EXTM3U')
    await deliverJob({ worker: delivery.id, database: database(), library, engines, storage }, { deliveryId: delivery.id })
    expect((await readdir(join(folder, 'deliveries', delivery.id))).sort()).toEqual(['01-one.mp3', 'SHA256SUMS', 'manifest.json', 'playlist.cue', 'playlist.m3u8'])
    await storage.close()
    await Promise.all([engines.close(), library.packs.close()])
    const { files } = await finishedDelivery(delivery.id, { withSentences: true })
    expect(files.map(({ name, title, sentences }) => [name, title, sentences.map(({ text }) => text)])).toEqual([['01-one.mp3', 'One', ['One', 'As it was ordered.']]])
    expect(files[0]!.fingerprint).toBe(fileFingerprint(before!.sound, tagsFor(before!, 1, workOf(scored)), profileOf(scored), await encoderName()))
    expect(probe(join(folder, 'deliveries', delivery.id, '01-one.mp3')).format.tags).toMatchObject({ title: 'One', album: 'The Year' })
    expect((await desk(id)).deliveries[0]!.files.map(file => file.stale)).toEqual([true])
    expect(await orderedFiles(delivery.id)).toEqual([])
  })

  test('is made for several profiles in one order, each divided and judged as it says', async () => {
    const id = await production(database(), part('One', 'Of the first.'), part('Two', 'Of the second.'))
    const scored = await scoreEdition(id)
    await readAll(scored)
    const own = await addProfile({ ...profiles.podcast, name: 'House podcast' })
    const others = [await profileBy('one-file'), await profileBy(own.id)]
    const made = async (): Promise<DeliveryRow[]> => {
      const ids = await startDeliveries(database(), index, await scoreEdition(id), 'all', others)
      const rows = await Promise.all(ids.map(each => DeliveryRow.findByPk(each, { rejectOnEmpty: true })))
      for (const row of rows) {
        const sheet = await orderedFiles(row.id)
        for (const file of sheet) await noteMade(row, file, sheet.length, scored)
      }
      await expect(startDelivery(database(), index, await scoreEdition(id))).rejects.toMatchObject({ problem: { code: 'delivery-running' } })
      for (const row of rows) await endDelivery(database(), row, 'done')
      return rows
    }
    const rows = await made()
    expect(rows.map(row => [row.number, row.profile.name, row.fileCount])).toEqual([[1, 'Book, retail', 2], [2, 'One-file book', 1], [3, 'House podcast', 2]])
    const stale = async (): Promise<unknown> => (await desk(id)).deliveries.map(delivery => [delivery.profile, delivery.files.map(file => [file.name, file.stale])])
    expect(await stale()).toEqual([['House podcast', [['01-one.mp3', false], ['02-two.mp3', false]]], ['One-file book', [['01-the-year.m4b', false]]], ['Book, retail', [['01-one.mp3', false], ['02-two.mp3', false]]]])
    // The run sheet goes by what was made with its own profile, though something newer was made with another.
    expect((await desk(id)).rows.map(row => row.state)).toEqual(['delivered', 'delivered'])

    await changeProfile(database(), own.id, { ...own.profile, headMs: 900 })
    await changeEdition(database(), id, { profile: 'one-file' })
    expect(await stale()).toEqual([['House podcast', [['01-one.mp3', true], ['02-two.mp3', true]]], ['One-file book', [['01-the-year.m4b', false]]], ['Book, retail', [['01-one.mp3', false], ['02-two.mp3', false]]]])
    expect((await desk(id)).rows.map(row => row.state)).toEqual(['delivered'])
    await expect(startDeliveries(database(), index, await scoreEdition(id), ['any.0'], others)).rejects.toMatchObject({ problem: { code: 'files-of-one-profile' } })
  })

  test('has the tags and the cover that were ordered, and says when the picture is gone', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'quill-cover-'))
    const library = { index: takeIndex(database()), packs: packsIn(folder) }
    const storage = new FolderStorage(folder)
    const engines = openEngines({ programs, parallel: 1 })
    closeLater = () => Promise.all([engines.close(), library.packs.close(), storage.close()])
    const id = await production(database(), part('One', 'It has a cover.'), part('Two', 'It has the same.'))
    await storeTakes(library, takesOfParts((await scoreEdition(id)).parts).map(key => newTake(key, new Int16Array(2205))))
    const picture = execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=320x240', '-frames:v', '1', '-f', 'image2pipe', '-c:v', 'png', 'pipe:1'])
    const cover = { sha256: 'c'.repeat(64), mediaType: 'image/png' as const, width: 320, height: 240, bytes: picture.length }
    await storage.put(coverFile(cover.sha256), picture)
    await changeEdition(database(), id, { profile: 'one-file', details: { ...noDetails, narrator: 'Nora Vale' }, cover })
    const make = async (): Promise<DeliveryRow> => {
      const deliveryId = await startDelivery(database(), library.index, await scoreEdition(id))
      await changeEdition(database(), id, { details: { ...noDetails, narrator: 'Somebody else' } })
      await deliverJob({ worker: deliveryId, database: database(), library, engines, storage }, { deliveryId })
      return DeliveryRow.findByPk(deliveryId, { rejectOnEmpty: true })
    }

    const first = await make()
    expect([first.state, first.problem]).toEqual(['done', null])
    const { streams, format } = probe(join(folder, 'deliveries', first.id, '01-the-year.m4b'))
    expect(format.tags).toMatchObject({ title: 'The Year', composer: 'Nora Vale' })
    expect(streams.find(stream => stream['codec_name'] === 'png')).toMatchObject({ width: 320, height: 240 })
    // The run sheet has the bytes of what was made, and with another profile what the cover adds to each file.
    const rows = async (): Promise<readonly RunSheetRow[]> => (await deliveryDesk(database(), await bringUpToDate(database(), id), await encoderName())).rows
    await changeEdition(database(), id, { details: { narrator: 'Nora Vale' } })
    expect((await rows())[0]).toMatchObject({ state: 'delivered', bytes: (await finishedDelivery(first.id)).files[0]!.bytes })
    await changeEdition(database(), id, { profile: 'book' })
    const withCover = await rows()
    await changeEdition(database(), id, { cover: null })
    expect((await rows()).map((row, index) => withCover[index]!.bytes - row.bytes)).toEqual([picture.length, picture.length])
    await changeEdition(database(), id, { cover, profile: 'one-file' })
    // The cover of the edition stays; one that belongs to no edition and no delivery is removed.
    await storage.put(coverFile('d'.repeat(64)), picture)
    const leftovers: Leftovers = new Map()
    await tidy(database(), storage, library.packs, leftovers, 0)
    await tidy(database(), storage, library.packs, leftovers, tidyMs)
    expect((await storage.list('covers')).map(({ name }) => name)).toEqual([coverFile(cover.sha256)])

    await storage.remove(coverFile(cover.sha256))
    expect(await make()).toMatchObject({ state: 'failed', problem: { code: 'cover-missing', message: 'The cover is no longer on the disk. Bring it in again on the Delivery page.' } })
  })

  test('is marked stale file by file when the script changes; earlier deliveries stay', async () => {
    const id = await production(database(), part('One', 'Kept as it is.'), part('Two', 'Will be changed.'), part('Three', 'Kept too.'))
    await readAll(await scoreEdition(id))
    await makeFiles(await scoreEdition(id))
    expect((await desk(id)).deliveries[0]!.files.map(file => file.stale)).toEqual([false, false, false])

    const passage = (await scoreEdition(id)).parts[1]!.passages[1]!
    await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: 1, content: plainContent('Has been changed.') }])
    const changed = await desk(id)
    expect(changed.deliveries[0]!.files.map(file => file.stale)).toEqual([false, true, false])
    expect(changed.rows.map(row => [row.state, row.missing])).toEqual([['delivered', 0], ['stale', 1], ['delivered', 0]])

    await readAll(await scoreEdition(id))
    await makeFiles(await scoreEdition(id))
    const after = await desk(id)
    expect(after.deliveries.map(delivery => [delivery.number, delivery.files.map(file => file.stale)])).toEqual([[2, [false, false, false]], [1, [false, true, false]]])
  })

  test('every file is stale after a change of volume, none after a change of the names', async () => {
    const id = await production(database(), part('One', 'The volume changes.'))
    const scored = await scoreEdition(id)
    await readAll(scored)
    await makeFiles(scored)
    await changeEdition(database(), id, { namePattern: '{number}' })
    expect((await desk(id)).rows.map(row => [row.name, row.state])).toEqual([['01.mp3', 'delivered']])
    await changeEdition(database(), id, { casting: { ...scored.casting, gainDb: -6 } })
    expect((await desk(id)).rows.map(row => [row.state, row.missing])).toEqual([['stale', 0]])
  })

  test('leaves out what is left out, and numbers what is left', async () => {
    const id = await production(database(), part('One', 'First.'), part('Two', 'Second.'), part('Three', 'Third.'))
    const two = (await scoreEdition(id)).parts[1]!.row
    await applyOperations(database(), id, 'window-1', [{ op: 'includePart', partId: two.id, revision: 1, included: false }])
    expect((await sheetNow(await scoreEdition(id))).map(file => [file.name, file.parts])).toEqual([['01-one.mp3', [1]], ['02-three.mp3', [3]]])
  })

  test('can be fetched only when it is finished', async () => {
    const id = await production(database(), part('One', 'Unfinished.'))
    await readAll(await scoreEdition(id))
    const delivery = await startDelivery(database(), takeIndex(database()), await scoreEdition(id))
    await expect(finishedDelivery(delivery)).rejects.toMatchObject({ problem: { code: 'delivery-not-done' } })
    await expect(startDelivery(database(), takeIndex(database()), await scoreEdition(id))).rejects.toMatchObject({ problem: { code: 'delivery-running' } })
  })
})

describe('the division into files', () => {
  const sheet = async (id: string): Promise<string[]> => (await desk(id)).rows.map(row => `${row.name} ${row.parts} ${row.missing}`)

  test('follows the profile, the edition’s own rule, and marks set by hand', async () => {
    const id = await production(database(), part('Alder', 'First of alder.', 'Second of alder.'), part('Birch', 'First of birch.'))
    expect(await sheet(id)).toEqual(['01-alder.mp3 1 3', '02-birch.mp3 2 2'])
    await setSplit(database(), id, { ...defaultSplit, where: { by: 'whole' } })
    expect(await sheet(id)).toEqual(['01-the-year.mp3 1–2 5'])
    expect(await desk(id)).toMatchObject({ isOwnSplit: true, marks: 0 })
    const [alder] = (await scoreEdition(id)).parts
    await setMarks(database(), id, [{ passageId: alder!.passages[2]!.id, mark: 'begins' }])
    expect(await sheet(id)).toEqual(['01-alder.mp3 1 2', '02-alder.mp3 1–2 3'])
    // The mark outlives an edit, and the passage itself as long as that can come back.
    await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: alder!.passages[2]!.id, revision: 1, content: plainContent('Changed.') }])
    expect(await sheet(id)).toEqual(['01-alder.mp3 1 2', '02-alder.mp3 1–2 3'])
    await setMarks(database(), id, [{ passageId: alder!.passages[2]!.id, mark: null }])
    await setSplit(database(), id, null)
    expect(await sheet(id)).toEqual(['01-alder.mp3 1 3', '02-birch.mp3 2 2'])
  })

  test('names have what is known of the edition, and rules of its own', async () => {
    const id = await production(database(), part('Alder', 'First of alder.'), part('Birch', 'First of birch.'))
    await changeEdition(database(), id, { author: 'T. Orrery', namePattern: '{author} {number} {role} {part}', nameRules: { firstNumber: 0, digits: 3, letters: 'written', longest: 40 } })
    expect(await sheet(id)).toEqual(['T. Orrery 000 Narrator Alder.mp3 1 2', 'T. Orrery 001 Narrator Birch.mp3 2 2'])
    // The numbers of the files themselves stay.
    expect((await desk(id)).rows.map(({ number, label }) => [number, label])).toEqual([[1, '000'], [2, '001']])
  })

  test('shows the passages of a file that a part of it could begin with', async () => {
    const id = await production(database(), part('Alder', 'First of alder.'), part('Birch', 'First of birch.'))
    await setSplit(database(), id, { ...defaultSplit, where: { by: 'whole' } })
    const loaded = await bringUpToDate(database(), id)
    const [row] = (await desk(id)).rows
    expect((await filePassages(database(), loaded, row!.key)).map(({ kind, title }) => [kind, title])).toEqual([['title', 'Alder'], ['paragraph', 'First of alder'], ['title', 'Birch'], ['paragraph', 'First of birch']])
    await expect(filePassages(database(), loaded, `${row!.partId}.1`)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  })

  test('a file that another division gives again counts as delivered; what is delivered has the files of the run sheet', async () => {
    const id = await production(database(), part('One', 'First of one.'), part('Two', 'First of two.'))
    await readAll(await scoreEdition(id))
    await setSplit(database(), id, { ...defaultSplit, where: { by: 'whole' } })
    await makeFiles(await scoreEdition(id))
    expect((await desk(id)).rows.map(row => row.state)).toEqual(['delivered'])
    await setSplit(database(), id, null)
    expect((await desk(id)).rows.map(row => row.state)).toEqual(['stale', 'ready'])
    await setSplit(database(), id, { ...defaultSplit, where: { by: 'whole' } })
    expect((await desk(id)).rows.map(row => row.state)).toEqual(['delivered'])
  })
})
