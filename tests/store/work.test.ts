import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { getPriority, tmpdir } from 'node:os'
import { join } from 'node:path'
import { defaultProfile } from '#core/delivery/profiles'
import { defaultChoices } from '#core/manuscript/choices'
import type { Manuscript } from '#core/manuscript/manuscript'
import { FolderStorage } from '../../takes/folder-storage'
import { DeliveryFileRow, DeliveryRow, ManuscriptRow, PartRow, PassageRow } from '../../store/models'
import { scoreEdition, takesOfParts as keysOf } from '../../store/score'
import { takeIndex } from '../../store/take-index'
import { storeTakes } from '../../takes/store-takes'
import type { Place } from '../../services/place'
import { tasks, type TaskInput, type TaskName } from '../../services/tasks'
import { Work } from '../../services/work'
import { casting } from '../support/casting'
import { openEngines } from '../../voices/engines'
import { ownDatabase, part, production } from '../support/database'
import { programs } from '../support/paths'
import { newTake, packsIn } from '../support/takes'

const { database } = ownDatabase()
const large = 1_000_000_000
let folder = ''
let place: Place
let work: Work

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'quill-work-'))
  place = { database: database(), storage: new FolderStorage(folder), library: { index: takeIndex(database()), packs: packsIn(folder) }, engines: openEngines({ programs, parallel: 1 }) }
  work = new Work(place, join(programs, 'task-child.mjs'), { QUILL_DATA: folder })
})
afterAll(async () => {
  work.close()
  await place.engines.close()
  await place.library.packs.close()
  await rm(folder, { recursive: true, force: true })
})

const content: Manuscript = {
  format: 'text', title: 'T', author: null, language: 'en', languageSource: 'chosen', units: [], problems: [],
  blocks: [{ kind: 'heading', level: 1, text: 'One' }, { kind: 'paragraph', text: 'The bees fly at 5 km.' }, { kind: 'heading', level: 1, text: 'Two' }, { kind: 'paragraph', text: 'They stay.' }],
}

test('every task gives beside the server what it gives in it', async () => {
  const editionId = await production(database(), part('One', 'The bees fly. Varroa stays.', 'A second passage.'), part('Two', 'They stay at home.'))
  const manuscriptId = randomUUID()
  await ManuscriptRow.create({ id: manuscriptId, fileName: 't.txt', sha256: 'a'.repeat(64), content })
  const scored = await scoreEdition(editionId)
  const keys = keysOf(scored.parts)
  await storeTakes(place.library, keys.map((key, index) => newTake(key, new Int16Array(5000).map((_, at) => (at * (index + 3)) % 900), { wordMarks: [7, 0, 11, 2000] })))
  const partId = scored.parts[0]!.row.id
  const [passage] = await PassageRow.findAll({ where: { partId }, order: [['rank', 'ASC']] })
  const choices = defaultChoices(content)
  const [first, second] = [randomUUID(), randomUUID()]
  for (const [index, id] of [first, second].entries()) {
    await DeliveryRow.create({ id, editionId, number: index + 1, state: 'done', profile: defaultProfile, title: 'T', author: null, language: 'en', details: null, cover: null, fileCount: 1, sheetCount: 1, trackRate: 22_050 })
    await DeliveryFileRow.create({
      deliveryId: id, number: 1, key: `${partId}.0`, name: '01.mp3', title: 'One', durationMs: 1000, sampleCount: 44_100, bytes: 1, sha256: id, fingerprint: id, parts: [1],
      sentences: [{ text: `The ${index === 0 ? 'bees' : 'wasps'} fly.`, startMs: 0, endMs: 900 }], levels: null, findings: [],
    })
  }
  const query = { what: 'bees', place: 'text', matchCase: false, wholeWord: false, isPattern: false } as const
  // Those that change something are tried below.
  const inputs: { readonly [N in Exclude<TaskName, 'operate' | 'undoEdit' | 'takeOver' | 'readMissing' | 'orderDelivery' | 'produce'>]: TaskInput<N> } = {
    summarise: { editionId }, findIn: { editionId, query }, divisionOf: { editionId, split: { by: 'heading', level: 1 } }, materialOf: { editionId },
    scriptFile: { editionId, format: 'ssml' }, pageOf: { partId }, utteranceOf: { partId, key: keys[1]! }, wordTimesOf: { partId, key: keys[1]! }, peaksOf: { partId }, layPart: { partId }, samplesOf: { editionId, partId },
    whyOf: { partId, passage: passage!.id, start: 0, end: 3 }, found: { manuscriptId }, proposal: { manuscriptId, choices, shown: 0 },
    styleCounts: { manuscriptId, houseStyle: 'book', language: 'en', choices }, comparison: { editionId, manuscriptId }, changesIn: { deliveryId: second, since: first }, reportFile: { deliveryId: second, form: 'html' },
    heardScore: { editionId, passages: [{ kind: 'paragraph', content: passage!.content, language: null, role: null }] }, wordsView: { editionId }, wordbookFile: { editionId, format: 'pls', shared: 'yes' },
    readWordbook: { name: 'w.csv', source: 'word,ipa\nVarroa,vəˈɹəʊə', language: 'en' }, runSheetOf: { editionId, encoder: 'e', damages: {} }, runSheetTable: { editionId, encoder: 'e' },
    knownWordsOf: { editionId, language: 'en', words: ['bees', 'Varroa'], names: [] }, dictionaryWords: undefined, pronunciationsOf: { editionId, word: 'Varroa', language: 'en' },
    passagesOfFile: { editionId, file: `${partId}.0` },
  }
  for (const [name, input] of Object.entries(inputs) as [TaskName, never][]) {
    const here: unknown = await (tasks[name] as (place: Place, input: unknown) => Promise<unknown>)(place, input)
    expect([name, await work.result(name, input, large)]).toEqual([name, Buffer.isBuffer(here) ? here : JSON.parse(JSON.stringify(here))])
  }
  expect(Object.keys(tasks).sort()).toEqual([...Object.keys(inputs), 'operate', 'undoEdit', 'takeOver', 'readMissing', 'orderDelivery', 'produce'].sort())
})

test('what changes something is done beside the server too, and its problems come back', async () => {
  const editionId = await production(database(), part('One', 'The bees fly.'), part('Two', 'The bees stay.'))
  const query = { what: 'bees', place: 'text', matchCase: true, wholeWord: false, isPattern: false } as const
  const window = 'window-1'
  expect(await work.result('operate', { editionId, window, operations: [{ op: 'replace', query, replacement: 'wasps' }] }, large)).toMatchObject({ replaced: { count: 2, passages: 2 } })
  expect(await work.result('undoEdit', { editionId, request: { window, direction: 'undo' } }, large)).toMatchObject({ done: { kind: 'replacement' } })
  expect(await work.result('readMissing', { editionId, parts: undefined }, large)).toMatchObject({ jobs: [{ chunk: 0 }] })
  await expect(work.result('readMissing', { editionId, parts: undefined }, large)).rejects.toMatchObject({ problem: { code: 'reading-running' } })
  await expect(work.result('orderDelivery', { editionId, choice: 'all', also: [] }, large)).rejects.toMatchObject({ problem: { code: 'not-read' } })
  const manuscriptId = randomUUID()
  await ManuscriptRow.create({ id: manuscriptId, fileName: 't.txt', sha256: 'b'.repeat(64), content })
  const asked = { manuscriptId, title: 'Made beside', language: 'en' }
  const made = await work.result('produce', { asked, casting }, large)
  expect((await PartRow.findAll({ where: made, order: [['rank', 'ASC']] })).map(row => row.label)).toEqual(['One', 'Two'])
  expect(await work.result('takeOver', { editionId, manuscriptId, window, keep: [] }, large)).toEqual({})
  await expect(work.result('pageOf', { partId: randomUUID() }, large)).rejects.toMatchObject({ problem: { code: 'not-found' } })
})

test('one that is ended from outside is asked once more', async () => {
  const editionId = await production(database(), part('Killed', 'The bees fly.'))
  const partId = (await PartRow.findOne({ where: { editionId }, rejectOnEmpty: true })).id
  const before = await work.result('pageOf', { partId }, large)
  const asked = work.result('pageOf', { partId }, large)
  for (const pid of childPids()) process.kill(pid, 'SIGKILL')
  expect(await asked).toEqual(before)
})

test('what works beside the server yields to whoever waits, and so does its session', async () => {
  const editionId = await production(database(), part('Yields', 'The bees fly.'))
  await work.result('wordsView', { editionId }, large)
  const [pid] = childPids()
  expect(getPriority(pid)).toBe(10)
  // Only where the system shares processors between sessions.
  const session = `/proc/${pid}/autogroup`
  if (existsSync(session)) expect(readFileSync(session, 'utf8')).toMatch(/ nice 10$/mu)
})

/** The processes beside the server. */
function childPids(): number[] {
  return execFileSync('pgrep', ['-P', String(process.pid), '-f', 'task-child.mjs'], { encoding: 'utf8' }).trim().split('\n').map(Number)
}
