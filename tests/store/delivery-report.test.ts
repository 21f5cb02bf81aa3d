import { randomUUID } from 'node:crypto'
import { mkdtemp, readdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { plainContent } from '#core/script/content'
import { finishedDelivery, startDelivery } from '../../store/deliveries'
import { concede, deliveryChanges, deliveryReport, refuseFailing, removeDelivery } from '../../store/delivery-report'
import { applyOperations } from '../../store/operations'
import { scoreEdition, takesOfParts } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import { FolderStorage } from '../../takes/folder-storage'
import type { TakeLibrary } from '../../takes/library'
import { storeTakes } from '../../takes/store-takes'
import { openEngines } from '../../voices/engines'
import { deliverJob } from '../../worker/deliver'
import { ownDatabase, part, production } from '../support/database'
import { programs } from '../support/paths'
import { newTake, packsIn } from '../support/takes'

const { database } = ownDatabase()
let folder: string
let library: TakeLibrary
let storage: FolderStorage
const engines = openEngines({ programs, parallel: 1 })

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'quill-report-'))
  library = { index: takeIndex(database()), packs: packsIn(folder) }
  storage = new FolderStorage(folder)
})
afterAll(() => Promise.all([engines.close(), library.packs.close(), storage.close()]))

/** Half a second in which somebody hums, for every sentence but those that are silent for three. */
async function read(id: string, isSilent: (text: string) => boolean = () => false): Promise<void> {
  const { parts } = await scoreEdition(id)
  const texts = new Map(parts.flatMap(each => takesOfParts([each]).map((take, index) => [take, each.score.utterances[index]!.text])))
  const missing = takesOfParts(parts).filter(take => !stored.has(take))
  for (const take of missing) stored.add(take)
  const hum = Int16Array.from({ length: 11_025 }, (_, at) => Math.round(4600 * Math.sin(at / 8)))
  const halting = Int16Array.from({ length: 88_200 }, (_, at) => at < 11_025 || at > 77_175 ? Math.round(4600 * Math.sin(at / 8)) : 0)
  await storeTakes(library, missing.map(take => newTake(take, isSilent(texts.get(take)!) ? halting : hum)))
}
const stored = new Set<string>()

async function make(id: string): Promise<string> {
  const deliveryId = await startDelivery(database(), library.index, await scoreEdition(id))
  await deliverJob({ worker: randomUUID(), database: database(), library, engines, storage }, { deliveryId })
  return deliveryId
}

test('a report says what fails and where in the script; handing it over takes a reason, which can be taken back', async () => {
  const id = await production(database(), part('Fine', 'Everything is heard.'), part('Halting', 'It begins well.', 'This one stops in the middle.'))
  await read(id, text => text.startsWith('This one'))
  const deliveryId = await make(id)
  const { report, partOf, earlier } = await deliveryReport(database(), deliveryId)
  expect(report).toMatchObject({ passes: false, profile: 'Book, retail', concession: null, delivery: { number: 1, sheetCount: 2 } })
  const [fine, halting] = report.files
  expect([fine!.findings, fine!.sound]).toEqual([[], { codec: 'mp3', sampleRate: 44_100, channels: 1, bits: null, bitRateKbps: 192 }])
  const { parts } = await scoreEdition(id)
  const { passageId, key } = parts[1]!.score.utterances.find(({ text }) => text.startsWith('This one'))!
  expect(halting!.findings).toMatchObject([{ code: 'long-silence', place: { passageId, key, text: 'This one stops in the middle.' } }])
  expect([partOf, earlier]).toEqual([{ [passageId]: parts[1]!.row.id }, []])

  const refuse = async (): Promise<void> => {
    const { delivery, files } = await finishedDelivery(deliveryId)
    refuseFailing(delivery, files)
  }
  await expect(refuse()).rejects.toMatchObject({ problem: { code: 'delivery-fails', message: expect.stringContaining('1 of 2 files do not pass “Book, retail”') as string } })
  await concede(database(), deliveryId, 'The pause is meant.')
  await refuse()
  expect((await deliveryReport(database(), deliveryId)).report).toMatchObject({ passes: false, concession: { reason: 'The pause is meant.' } })
  await concede(database(), deliveryId, null)
  await expect(refuse()).rejects.toMatchObject({ problem: { code: 'delivery-fails' } })
})

test('two deliveries are compared by their files and sentences', async () => {
  const id = await production(database(), part('Same', 'Nothing changes here.'), part('Changed', 'This is one.', 'It goes on.'))
  await read(id)
  const first = await make(id)
  await expect(deliveryChanges(first)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  await expect(concede(database(), first, 'All is well.')).rejects.toMatchObject({ problem: { code: 'nothing-fails' } })
  const passage = (await scoreEdition(id)).parts[1]!.passages[1]!
  await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: 1, content: plainContent('This is another. And one more.') }])
  await read(id)
  const second = await make(id)
  expect(await deliveryChanges(second)).toMatchObject({
    since: 1, same: 1,
    files: [{ kind: 'changed', name: '02-changed.mp3', sentenceCount: 2, sentences: [{ before: 'This is one.', after: 'This is another.' }, { before: null, after: 'And one more.' }] }],
  })
  expect(await deliveryChanges(second, first)).toEqual(await deliveryChanges(second))
  expect((await deliveryReport(database(), second)).earlier.map(({ number }) => number)).toEqual([1])
  const other = await production(database(), part('Other', 'Of another production.'))
  await read(other)
  await expect(deliveryChanges(second, await make(other))).rejects.toMatchObject({ problem: { code: 'not-found' } })

  await removeDelivery(database(), storage, first)
  expect(await readdir(join(folder, 'deliveries', first)).catch(() => [])).toEqual([])
  await expect(deliveryReport(database(), first)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  await expect(removeDelivery(database(), storage, first)).rejects.toMatchObject({ problem: { code: 'not-found' } })
})

test('two parts that say the same are a fault of the second, which is forgotten where only that is made again', async () => {
  const id = await production(database(), part('Refrain', 'The same again.'), part('Refrain', 'The same again.'))
  await read(id)
  const [first, second] = (await deliveryReport(database(), await make(id))).report.files
  expect([first!.findings, second!.findings!.map(({ code }) => code)]).toEqual([[], ['doubled']])
  const { id: partId, revision } = (await scoreEdition(id)).parts[0]!.row
  await applyOperations(database(), id, 'window-1', [{ op: 'includePart', partId, revision, included: false }])
  expect((await deliveryReport(database(), await make(id))).report).toMatchObject({ passes: true, files: [{ findings: [] }] })
})
